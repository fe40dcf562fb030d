import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TimeScale } from '../shared/time-scale';
import { GroundStripDrag, holdAt, type StripHold } from './ground-strip-drag';

/** Ten milliseconds a pixel. */
const scale = new TimeScale(0, 10_000, 0, 1000);
const range = { startMs: 2000, endMs: 4000 };
const window = { startMs: 3000, endMs: 8000 };

function drag(hold: StripHold, from: number, to: number) {
  const one = new GroundStripDrag();
  one.begin(from, hold);
  return one.end(to, scale);
}

describe('what a pointer takes hold of', () => {
  it('is an end, the middle or nothing, of the range, and in the band of the window', () => {
    const at = (x: number, inBand = false) => {
      const hold = holdAt(x, inBand, scale, { range, window });
      return `${hold.part} ${hold.end}`;
    };
    expect([190, 209, 300, 395, 411, 600].map((x) => at(x))).toEqual([
      'range start',
      'range start',
      'range middle',
      'range end',
      'range end',
      'range none',
    ]);
    expect([295, 600, 805, 250].map((x) => at(x, true))).toEqual([
      'window start',
      'window middle',
      'window end',
      'range middle',
    ]);
  });

  it('is never lost: of the narrowest range both ends and the middle can be held', () => {
    fc.assert(
      fc.property(fc.integer({ min: 20, max: 980 }), fc.integer({ min: 3, max: 200 }), (left, width) => {
        const narrow = { startMs: left * 10, endMs: (left + width) * 10 };
        const ends = Array.from({ length: width + 24 }, (_, step) => left - 12 + step).map(
          (x) => holdAt(x, false, scale, { range: narrow, window: undefined }).end,
        );
        expect(new Set(ends)).toEqual(new Set(['start', 'middle', 'end']));
      }),
    );
  });
});

describe('a drag along the strip', () => {
  it('sets a range on empty ground, whichever way it goes', () => {
    const set = { part: 'range', range: { startMs: 1000, endMs: 5000 } };
    expect(drag({ part: 'range', end: 'none' }, 100, 500)).toEqual(set);
    expect(drag({ part: 'range', end: 'none' }, 500, 100)).toEqual(set);
  });

  it('moves an end, also past the other', () => {
    expect(drag({ part: 'range', end: 'start', range }, 200, 300)?.range).toEqual({
      startMs: 3000,
      endMs: 4000,
    });
    expect(drag({ part: 'range', end: 'start', range }, 200, 600)?.range).toEqual({
      startMs: 4000,
      endMs: 6000,
    });
  });

  it('moves what it holds by the middle, and says which of the two it was', () => {
    const moved = { startMs: 4000, endMs: 9000 };
    expect(drag({ part: 'window', end: 'middle', range: window }, 500, 600)).toEqual({
      part: 'window',
      range: moved,
    });
  });

  it('is none below four pixels, nor once it was cancelled', () => {
    expect(drag({ part: 'range', end: 'none' }, 100, 103)).toBeUndefined();
    const one = new GroundStripDrag();
    one.begin(100, { part: 'range', end: 'none' });
    one.cancel();
    expect(one.end(500, scale)).toBeUndefined();
  });
});
