import { beforeEach, expect, it } from 'vitest';
import { HeldSamples } from './held-samples';

const [HANDLER, LINE_14, LINE_15, OTHER] = [100, 314, 315, 200];
const open = (...positions: number[]) => Int32Array.from([positions.length, ...positions, 0, 0]);

let taken: string[];
let held: HeldSamples;
beforeEach(() => {
  taken = [];
  held = new HeldSamples((atMs, calls, depth) =>
    taken.push(`${atMs}: ${[...calls.subarray(1, depth + 1)].join()}`),
  );
});

it('stand where the same call stands at the next look', () => {
  held.hold(1, open(HANDLER, LINE_15));
  held.hold(2, open(HANDLER, LINE_15));
  expect(taken).toEqual([]);
  held.settle(open(HANDLER, LINE_14));
  held.release();
  expect(taken).toEqual([`1: ${HANDLER},${LINE_14}`, `2: ${HANDLER},${LINE_14}`]);
});

it('stand where the thread stood before the call, each, when no look comes in the same call', () => {
  held.hold(1, open(HANDLER, LINE_14));
  held.hold(2, open(HANDLER, LINE_15));
  for (const elsewhere of [open(HANDLER), open(OTHER, LINE_15), open(HANDLER, LINE_15, OTHER)])
    held.settle(elsewhere);
  expect(taken).toEqual([]);
  held.release();
  expect(taken).toEqual([`1: ${HANDLER},${LINE_14}`, `2: ${HANDLER},${LINE_15}`]);
});

it('are let go when another call has some, or there are too many', () => {
  held.hold(1, open(HANDLER, LINE_14));
  held.hold(2, open(OTHER, LINE_14));
  expect(taken).toEqual([`1: ${HANDLER},${LINE_14}`]);
  for (let ms = 3; ms < 30; ms++) held.hold(ms, open(OTHER, LINE_15));
  expect(taken.length).toBeGreaterThan(16);
});

it('are not held in a deep recursion, whose calls would be compared at each look', () => {
  held.hold(1, open(...Array.from({ length: 5000 }, () => HANDLER)));
  expect(taken).toHaveLength(1);
});
