import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryRecording } from '../testing/arbitrary-recording';
import { coarsen } from './coarsen';
import { partition } from './partition';

describe('segments for a drawing', () => {
  it('cover the same time in order, in no more pieces than can be drawn or are there', () => {
    fc.assert(
      fc.property(arbitraryRecording, fc.integer({ min: 1, max: 40 }), (recording, steps) => {
        const range = { startMs: 0, endMs: 2500 };
        const segments = [...partition(recording, 0, range)];
        const coarse = coarsen(segments, range, steps);
        expect(coarse[0]?.startMs).toBe(segments[0]?.startMs);
        expect(coarse.at(-1)?.endMs).toBe(segments.at(-1)?.endMs);
        for (let at = 1; at < coarse.length; at++) expect(coarse[at]!.startMs).toBe(coarse[at - 1]!.endMs);
        expect(coarse.length).toBeLessThanOrEqual(Math.min(segments.length, 2 * steps + 1));
      }),
    );
  });
});
