import { durationText, clockText, bytesText, percentText } from '@nettle-patch/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TimeScale, axisTicks } from './time-scale';
import { failureWords, noticeWords } from './words';

describe('figures', () => {
  it('carry their unit', () => {
    expect([412.4, 1240, 48_230, 125_000].map(durationText)).toEqual([
      '412 ms',
      '1.24 s',
      '48.2 s',
      '2 min 5 s',
    ]);
    expect([0, 7340, 65_000].map(clockText)).toEqual(['0:00.0', '0:07.3', '1:05.0']);
    expect([12, 17_400, 3_400_000].map(bytesText)).toEqual(['12 B', '17 kB', '3.2 MB']);
    expect([0, 0.004, 0.17, 1].map(percentText)).toEqual(['0 %', '0.4 %', '17 %', '100 %']);
  });
});

describe('a time scale', () => {
  it('goes to pixels and back', () => {
    const scale = new TimeScale(100, 700, 20, 1160);
    fc.assert(
      fc.property(fc.double({ min: 100, max: 700, noNaN: true }), (ms) => {
        expect(scale.ms(scale.x(ms))).toBeCloseTo(ms, 6);
      }),
    );
    expect(scale.ms(-50)).toBe(100);
  });

  it('has ticks at round distances, never closer than asked', () => {
    expect(axisTicks(new TimeScale(0, 612, 0, 790), 70)).toEqual([0, 100, 200, 300, 400, 500, 600]);
    fc.assert(
      fc.property(fc.double({ min: 1, max: 1e6, noNaN: true }), (lengthMs) => {
        const scale = new TimeScale(0, lengthMs, 0, 800);
        const ticks = axisTicks(scale, 70);
        expect(ticks.length).toBeLessThanOrEqual(12);
        if (ticks.length > 1) expect(ticks[1]! * scale.pixelsPerMs).toBeGreaterThanOrEqual(70 - 1e-6);
      }),
    );
  });
});

describe('errors in words', () => {
  it('say what happened, why, and what to do', () => {
    expect(
      failureWords({ code: 'not-a-recording', detail: 'the first line is no Nettle Patch header' }),
    ).toBe(
      'This file cannot be used: the first line is no Nettle Patch header. Choose a recording (.nettle.jsonl, .nettle.jsonl.gz), performance entries or a profiler trace as JSON, an HTTP Archive, or folded stacks.',
    );
    expect(noticeWords({ code: 'cut-off', detail: 'line 9 is incomplete', line: 8 })).toBe(
      'The recording is cut off: line 9 is incomplete. It was opened up to there.',
    );
  });
});
