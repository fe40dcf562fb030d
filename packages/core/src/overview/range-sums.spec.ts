import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BREAKDOWN_PARTS } from '../attribution/time-breakdown';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import type { Row } from '../format/rows';
import { arbitraryRecording } from '../testing/arbitrary-recording';
import { came, asked, drawn, recordingOfChain, tap } from '../testing/chain-rows';
import { recorded } from '../testing/recorded';
import { rangeSums, type RangeSums } from './range-sums';

const share = fc.double({ min: 0, max: 1, noNaN: true });

describe('what is in a range, summed', () => {
  it('has kinds that sum to the range, of which no more is charged to functions than was spent', () => {
    fc.assert(
      fc.property(arbitraryRecording, share, share, (recording, a, b) => {
        const { endMs } = recording.range;
        const range = { startMs: Math.min(a, b) * endMs, endMs: Math.max(a, b) * endMs };
        const { kinds, functions } = rangeSums(recording, range, DEFAULT_THRESHOLDS);
        const sum = BREAKDOWN_PARTS.reduce((all, part) => all + kinds[part], 0);
        expect(sum).toBeCloseTo(range.endMs - range.startMs, 3);
        const charged = functions.reduce((all, { chargedMs }) => all + chargedMs, 0);
        expect(charged).toBeLessThanOrEqual(sum - kinds.idleMs + 0.01);
      }),
    );
  });

  it('is, of two ranges that follow each other, the sum of both', () => {
    fc.assert(
      fc.property(arbitraryRecording, share, (recording, at) => {
        const { startMs, endMs } = recording.range;
        const middleMs = startMs + at * (endMs - startMs);
        const of = (from: number, to: number) =>
          rangeSums(recording, { startMs: from, endMs: to }, DEFAULT_THRESHOLDS);
        // What lies at the very end is in no range that ends there.
        const [whole, first, second] = [of(startMs, endMs), of(startMs, middleMs), of(middleMs, endMs)];
        const redraws = ({ redraws: all }: RangeSums) => all.reduce((sum, { count }) => sum + count, 0);
        expect(redraws(first) + redraws(second)).toBe(redraws(whole));
        expect(first.inputs.count + second.inputs.count).toBe(whole.inputs.count);
        expect(first.frames.count + second.frames.count).toBe(whole.frames.count);
        for (const part of BREAKDOWN_PARTS)
          expect(first.kinds[part] + second.kinds[part]).toBeCloseTo(whole.kinds[part], 2);
      }),
    );
  });

  it('tells of a slow handler what an investigator would ask first', () => {
    const recording = recorded('board-all-exact');
    const sums = rangeSums(recording, recording.range, DEFAULT_THRESHOLDS);
    expect(sums.inputs).toMatchObject({ over: 1, budgetMs: 200, worst: { label: 'Tap button “Board all”' } });
    expect(sums.frames.late).toBeGreaterThan(0);
    expect(sums.frames.missed).toBeGreaterThan(10);
    const names = sums.functions.map(({ functionId }) => recording.functions.get(functionId)!.name);
    expect(names[0]).toBe('bendingOfPair');
    expect(sums.kinds.scriptOwnMs).toBeGreaterThan(500);
  });

  it('lists redraws by element: how often, what of it could be seen, and who wrote', () => {
    const recording = recordingOfChain(
      ...tap(100, 1),
      asked(105, 11, 1, { type: 'interval', delayMs: 100 }),
      ...[0, 1, 2, 3].flatMap((turn) => [
        came(300 + turn * 100, 2, 20 + turn, 11),
        ...drawn(305 + turn * 100, 20 + turn, { target: 'clock “Quay”', function: 7, changed: turn > 1 }),
      ]),
      ...drawn(710, 23, { target: 'list “Crew”', inView: false }),
    );
    const [clock, list, ...others] = rangeSums(recording, recording.range, DEFAULT_THRESHOLDS).redraws;
    expect(others).toEqual([]);
    expect(clock).toEqual({
      target: 'clock “Quay”',
      count: 4,
      inView: 4,
      unchanged: 2,
      visible: 2,
      functionId: 7,
      written: 4,
      ranBefore: undefined,
      firstMs: 305,
      lastMs: 605,
    });
    expect(list).toMatchObject({ target: 'list “Crew”', count: 1, inView: 0, visible: 0 });
  });

  it('sums requests that were on their way, and memory that was read', () => {
    const request = (startMs: number, durationMs: number, about: object): Row =>
      ({
        kind: 'request',
        thread: 0,
        startMs,
        durationMs,
        url: '/crew',
        initiator: 'fetch',
        ...about,
      }) as Row;
    const recording = recordingOfChain(
      request(100, 300, { bytes: 1000, status: 200 }),
      request(390, 500, { url: '/tides', bytes: 24, status: 503 }),
      request(5000, 10, {}),
      { kind: 'memory', thread: 0, startMs: 200, usedKb: 10 },
      { kind: 'memory', thread: 0, startMs: 400, usedKb: 30 },
      { kind: 'collection', thread: 0, startMs: 410, durationMs: 4 },
    );
    const { requests, memory } = rangeSums(recording, { startMs: 150, endMs: 1000 }, DEFAULT_THRESHOLDS);
    expect(requests).toEqual({
      count: 2,
      failed: 1,
      bytes: 1024,
      longest: { url: '/tides', durationMs: 500 },
    });
    expect(memory).toEqual({ firstBytes: 10_240, lastBytes: 30_720, collections: 1, collectedMs: 4 });
  });

  it('leaves out what lies outside of the recording', () => {
    const recording = recordingOfChain(...tap(100, 1));
    const { startMs, endMs, kinds } = rangeSums(
      recording,
      { startMs: -500, endMs: Infinity },
      DEFAULT_THRESHOLDS,
    );
    expect([startMs, endMs]).toEqual([recording.range.startMs, recording.range.endMs]);
    expect(kinds.totalMs).toBeCloseTo(endMs - startMs, 3);
  });
});
