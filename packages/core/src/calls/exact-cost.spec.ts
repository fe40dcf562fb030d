import { expect, it } from 'vitest';
import { packCounts } from '../format/packed-counts';
import { packSamples } from '../format/packed-samples';
import type { Header } from '../format/header';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { deskFunctions, deskRun, end } from '../testing/desk-rows';
import { exactCost } from './exact-cost';

/** 100 ms of script, in which one function was seen all the time and the other never. */
const recording = (header: Partial<Header>, counts: readonly number[]) =>
  recordingOf(
    [
      ...deskFunctions('computeTrim', 'bendingOf'),
      { kind: 'stack', id: 0, function: 0 },
      deskRun(0, 100, 0),
      {
        kind: 'samples',
        ...packSamples(0, 1, {
          timesUs: Array.from({ length: 100 }, (_, at) => at * 1000 + 500),
          stacks: Array.from({ length: 100 }, () => 0),
        }),
      },
      { kind: 'counts', ...packCounts(0, 0, 100, { functions: [0, 1], counts: [...counts] }) },
      end(100),
    ],
    deskHeader({ fine: true, clockReadMs: 0.001, ...header }),
  );

it('is the clock read twice for each call that takes long enough to be timed', () => {
  expect(exactCost(recording({}, [1000, 0]))).toEqual({ factor: 1.02, timed: 1000, counted: 0 });
});

it('is next to nothing for functions too quick to be timed, however often they are called', () => {
  const { factor, timed, counted } = exactCost(recording({}, [1, 640_256]))!;
  expect(timed).toBe(1 + 256 + 10_000);
  expect(timed + counted).toBe(640_257);
  expect(factor).toBeCloseTo(1 + (2 * timed * 0.001) / 100, 6);
});

it('is not known where calls were not counted, or the cost of the clock is not known', () => {
  expect(exactCost(recording({ fine: false }, [1000, 0]))).toBeUndefined();
  const { clockReadMs: _, ...header } = deskHeader({ fine: true });
  expect(exactCost(recordingOf([...deskFunctions(), end(100)], header as Header))).toBeUndefined();
});
