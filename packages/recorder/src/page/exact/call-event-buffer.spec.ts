import { CALL_END } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { createCallEventBuffer, type CallChunk } from './call-event-buffer';

const CHUNK = 32_768;

function newRing() {
  const chunks: CallChunk[] = [];
  const ring = createCallEventBuffer((chunk) => chunks.push(chunk));
  ring.switch(true);
  return { ring, chunks };
}
const events = ({ ids, count }: CallChunk) => [...ids.subarray(0, count)];

describe('the ring of calls', () => {
  it('holds nothing unless it is switched on', () => {
    const chunks: CallChunk[] = [];
    const ring = createCallEventBuffer((chunk) => chunks.push(chunk));
    expect(ring.enter(7)).toBe(1);
    expect(ring.leave()).toBe(0);
    ring.handOver();
    expect(chunks).toEqual([]);
  });

  it('hands on events with times that never go back, and knows what is open', () => {
    const { ring, chunks } = newRing();
    ring.enter(7);
    ring.enter(9);
    expect(ring.current()).toBe(9);
    ring.leave();
    expect([ring.current(), ring.open[0]]).toEqual([7, 1]);
    ring.leave();
    ring.leave();
    ring.handOver();
    expect(events(chunks[0]!)).toEqual([7, 9, CALL_END, CALL_END]);
    const times = chunks[0]!.timesMs.subarray(0, 4);
    expect([...times]).toEqual([...times].sort((a, b) => a - b));
  });

  it('hands a full chunk on in the middle of a call, and uses buffers again that come back', () => {
    const { ring, chunks } = newRing();
    for (let call = 0; call < CHUNK; call++) {
      ring.enter(5);
      ring.leave();
    }
    expect(chunks.map(({ count }) => count)).toEqual([CHUNK, CHUNK]);
    const [{ ids, timesMs }] = chunks as [CallChunk];
    ring.giveBack({ ids, timesMs });
    for (let call = 0; call < CHUNK; call++) {
      ring.enter(5);
      ring.leave();
    }
    expect(chunks.some((chunk, at) => at > 1 && chunk.ids === ids)).toBe(true);
  });

  it('is bounded: where nobody takes chunks away it drops, counts, and goes on with what is open', () => {
    const { ring, chunks } = newRing();
    ring.enter(3);
    const most = 170;
    for (let event = 0; event < most * CHUNK; event += 2) {
      ring.enter(5);
      ring.leave();
    }
    expect(chunks.length).toBeLessThan(most);
    ring.giveBack({ ids: chunks[0]!.ids, timesMs: chunks[0]!.timesMs });
    ring.handOver();
    const last = chunks.at(-1)!;
    expect(last.lost).toBeGreaterThan(0);
    expect(last.lost % 2).toBe(0);
    expect(events(last)[0]).toBe(3);
    expect(ring.current()).toBe(3);
  });

  it('ends what a script that failed left open', () => {
    const { ring, chunks } = newRing();
    ring.enter(1);
    ring.enter(2);
    ring.unwind();
    ring.handOver();
    expect(events(chunks[0]!)).toEqual([1, 2, CALL_END, CALL_END]);
    expect(ring.current()).toBeUndefined();
  });
});
