import { expect, it } from 'vitest';
import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { CALL_END, packCalls } from '../format/packed-calls';
import { packCounts } from '../format/packed-counts';
import { deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { deskFunctions, end } from '../testing/desk-rows';
import { partition } from './partition';
import { kindsOfRange } from './range-breakdown';

const [SEARCH, FOLD, FOLD_ONE_OF_MANY] = [0, 1, 2];
/** onSearch runs for 10 ms and calls foldAccents 128 times, of which two were timed, each for 50 µs. */
const recording = (every: number, clockReadMs: number) =>
  recordingOf(
    [
      ...deskFunctions('onSearch', 'foldAccents'),
      { kind: 'function', id: FOLD_ONE_OF_MANY, name: '', sameAs: FOLD, every },
      {
        kind: 'calls',
        ...packCalls(0, {
          timesUs: [0, 2000, 2050, 6000, 6050, 10_000],
          functions: [SEARCH, FOLD_ONE_OF_MANY, CALL_END, FOLD_ONE_OF_MANY, CALL_END, CALL_END],
        }),
      },
      { kind: 'counts', ...packCounts(0, 0, 10, { functions: [FOLD], counts: [128] }) },
      end(10),
    ],
    deskHeader({ mode: 'exact', clockReadMs, clockStepMs: 0.1 }),
  );
const rowsOf = (every: number, clockReadMs: number) =>
  new Map(functionTable(recording(every, clockReadMs), WIDE_LENS).map((row) => [row.functionId, row]));

it('what was not timed is estimated by what was, without the clock in it, and taken from the caller', () => {
  const rows = rowsOf(64, 0.01);
  const untimedMs = 63 * 2 * (0.05 - 0.01);
  expect(rows.get(FOLD)).toMatchObject({ count: 2, counted: 128 });
  expect(rows.get(FOLD)!.selfMs).toBeCloseTo(0.1 + untimedMs, 6);
  expect(rows.get(SEARCH)!.selfMs).toBeCloseTo(9.9 - untimedMs, 6);
  expect(rows.get(SEARCH)).toMatchObject({ count: 1, totalMs: 10, selfErrorMs: 0 });
  expect(rows.get(FOLD)!.selfErrorMs).toBeCloseTo(Math.sqrt(64 * untimedMs * 0.1), 6);
});

it('no more is taken than there is, and nothing where the clock took all of it', () => {
  expect(rowsOf(1000, 0).get(SEARCH)!.selfMs).toBeCloseTo(0, 6);
  expect(rowsOf(1000, 0).get(FOLD)!.selfMs).toBeCloseTo(10, 6);
  expect(rowsOf(64, 0.06).get(SEARCH)!.selfMs).toBeCloseTo(9.9, 6);
});

it('each moment is told with the same shares, and those of the quick function are called sampled', () => {
  const ms = new Map<string, number>();
  for (const { startMs, endMs, stack, certainty } of partition(recording(64, 0.01), 0, {
    startMs: 1,
    endMs: 10,
  })) {
    const key = `${recording(64, 0.01).stacks.functionOf(stack)} ${certainty}`;
    ms.set(key, (ms.get(key) ?? 0) + endMs - startMs);
  }
  const share = (63 * 2 * (0.05 - 0.01)) / 9.9;
  expect(ms.get(`${SEARCH} measured`)).toBeCloseTo(8.9 * (1 - share), 6);
  expect(ms.get(`${FOLD_ONE_OF_MANY} sampled`)).toBeCloseTo(0.1 + 8.9 * share, 6);
});

it('the sums of a range by kind are those of its moments, whoever owns the quick function', () => {
  const one = recording(64, 0.01);
  const range = { startMs: 1, endMs: 7 };
  const sums = kindsOfRange(one, 0, range);
  const ofMoments = partition(one, 0, range).sums();
  expect(sums.length).toBe(ofMoments.length);
  ofMoments.forEach((ms, code) => expect(sums[code], String(code)).toBeCloseTo(ms, 6));
  expect(ofMoments.filter((ms) => ms > 0)).toHaveLength(2);
});
