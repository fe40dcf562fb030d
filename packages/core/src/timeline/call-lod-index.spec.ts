import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CALL_END, packCalls } from '../format/packed-calls';
import { callsOf } from '../recording/recording';
import { arbitraryRecording, recordingOf } from '../testing/arbitrary-recording';
import { recorded } from '../testing/recorded';
import { CallLodIndex, type DrawnCalls } from './call-lod-index';

function listed({ length, indexes, startsMs, depths, filled, others }: DrawnCalls) {
  return Array.from({ length }, (_, at) => ({
    index: indexes[at]!,
    startMs: startsMs[at]!,
    depth: depths[at]!,
    filled: filled[at]!,
    others: others[at]!,
  }));
}

/** Rows of calls of two functions, 0 an own one and 1 a library's, by their events. */
function rowsOf(timesUs: readonly number[], functions: readonly number[]): CallLodIndex {
  const recording = recordingOf([
    { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
    { kind: 'function', id: 0, name: 'stow', source: 0, owner: 'own' },
    { kind: 'function', id: 1, name: 'sum', source: 0, owner: 'library' },
    { kind: 'calls', ...packCalls(0, { timesUs, functions }) },
  ]);
  return new CallLodIndex(recording, callsOf(recording, 0));
}

const range = fc
  .tuple(fc.integer({ min: 0, max: 2_000_000 }), fc.integer({ min: 1, max: 800_000 }))
  .map(([startUs, lengthUs]) => ({ startMs: startUs / 1000, endMs: (startUs + lengthUs) / 1000 }));

describe('rows of calls', () => {
  it('are drawn in order without overlap, and never more than fit into the pixels', () => {
    fc.assert(
      fc.property(arbitraryRecording, range, fc.integer({ min: 1, max: 300 }), (recording, shown, pixels) => {
        const rows = new CallLodIndex(recording, callsOf(recording, 0));
        const drawn = listed(rows.draw(shown, pixels, 50));
        for (let depth = 0; depth < rows.depth; depth++) {
          const own = drawn.filter((call) => call.depth === depth);
          expect(own.length).toBeLessThanOrEqual(pixels + 2);
          for (let at = 1; at < own.length; at++) {
            expect(own[at]!.startMs).toBeGreaterThanOrEqual(own[at - 1]!.startMs);
            expect(own[at]!.index).toBeGreaterThan(own[at - 1]!.index);
          }
        }
      }),
    );
  });

  it('fill as much of a pixel in a recording of thirty days', () => {
    // A pixel ends with a block of eight calls, of the 72 in it.
    const BLOCK_SHARE = 8 / 72;
    const HOUR_US = 3_600_000_000;
    const timesUs: number[] = [];
    const functions: number[] = [];
    for (let hour = 0; hour < 720; hour++) {
      timesUs.push(hour * HOUR_US, (hour + 0.5) * HOUR_US);
      functions.push(hour % 4 === 0 ? 1 : 0, CALL_END);
    }
    const rows = rowsOf(timesUs, functions);
    const drawn = listed(rows.draw({ startMs: 0, endMs: (720 * HOUR_US) / 1000 }, 10, 5));
    for (const { filled, others } of drawn.slice(0, -1)) {
      expect(Math.abs(filled - 0.5)).toBeLessThan(BLOCK_SHARE);
      expect(Math.abs(others - 0.25)).toBeLessThan(BLOCK_SHARE);
    }
  });

  it('fill as much of a pixel as its calls took, and tell how much of it is not own code', () => {
    const timesUs: number[] = [];
    const functions: number[] = [];
    for (let call = 0; call < 1000; call++) {
      timesUs.push(call * 10, call * 10 + 5);
      functions.push(call % 2, CALL_END);
    }
    const rows = rowsOf(timesUs, functions);
    const drawn = listed(rows.draw({ startMs: 0, endMs: 10 }, 10, 5));
    expect(drawn.length).toBeGreaterThanOrEqual(9);
    expect(drawn.length).toBeLessThanOrEqual(11);
    for (const { filled, others } of drawn.slice(0, -1)) {
      expect(filled).toBeCloseTo(0.5, 1);
      expect(others).toBeCloseTo(0.5, 1);
    }
  });

  it('find the call at a moment', () => {
    const recording = recorded('board-all-exact');
    const spans = callsOf(recording, 0);
    const rows = new CallLodIndex(recording, spans);
    for (const index of spans.roots) {
      const middleMs = (spans.startsUs[index]! + spans.endsUs[index]!) / 2000;
      if (spans.endsUs[index]! > spans.startsUs[index]!) expect(rows.at(middleMs, 0)).toBe(index);
    }
    expect(rows.at(-10, 0)).toBeUndefined();
  });
});
