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
    ring.enterAt(7, 1);
    ring.leaveAt(2);
    ring.handOver();
    expect(chunks).toEqual([]);
  });

  it('hands on events with times that never go back, and knows what is open', () => {
    const { ring, chunks } = newRing();
    ring.enterAt(7, ring.now());
    ring.enterAt(9, ring.now());
    expect(ring.current()).toBe(9);
    ring.leaveAt(ring.now());
    expect([ring.current(), ring.open[0]]).toEqual([7, 1]);
    ring.leaveAt(ring.now());
    ring.leaveAt(ring.now());
    ring.handOver();
    expect(events(chunks[0]!)).toEqual([7, 9, CALL_END, CALL_END]);
    const times = chunks[0]!.timesMs.subarray(0, 4);
    expect([...times]).toEqual([...times].sort((a, b) => a - b));
  });

  it('hands a full chunk on in the middle of a call, and uses buffers again that come back', () => {
    const { ring, chunks } = newRing();
    for (let call = 0; call < CHUNK; call++) {
      ring.enterAt(5, ring.now());
      ring.leaveAt(ring.now());
    }
    expect(chunks.map(({ count }) => count)).toEqual([CHUNK, CHUNK]);
    const [{ ids, timesMs }] = chunks as [CallChunk];
    ring.giveBack({ ids, timesMs });
    for (let call = 0; call < CHUNK; call++) {
      ring.enterAt(5, ring.now());
      ring.leaveAt(ring.now());
    }
    expect(chunks.some((chunk, at) => at > 1 && chunk.ids === ids)).toBe(true);
  });

  it('is bounded: where nobody takes chunks away it drops, counts, and goes on with what is open', () => {
    const { ring, chunks } = newRing();
    ring.enterAt(3, ring.now());
    const most = 170;
    for (let event = 0; event < most * CHUNK; event += 2) {
      ring.enterAt(5, ring.now());
      ring.leaveAt(ring.now());
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
    ring.enterAt(1, ring.now());
    ring.enterAt(2, ring.now());
    ring.unwind();
    ring.handOver();
    expect(events(chunks[0]!)).toEqual([1, 2, CALL_END, CALL_END]);
    expect(ring.current()).toBeUndefined();
  });
});
