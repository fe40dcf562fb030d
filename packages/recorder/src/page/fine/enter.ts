import { ENTRY_WEIGHT, LOOK_COUNTDOWN, slotOf } from '@nettle-patch/core';

declare const __np_a: Int32Array;
declare const __np_n: Int32Array;
declare const __np_l: () => 0;

/**
 * Enters a function, as rewritten scripts have it done (see `provideLooks`). What it uses are the global names of these
 * scripts, and not variables around it: engines know that those never change, so that little is left of it in the
 * functions that begin with it.
 * @returns how many calls are open
 */
export function enter(id: number): number {
  const depth = ++__np_a[0]!;
  __np_a[depth] = id;
  __np_n[slotOf(id)]!++;
  if ((__np_a[LOOK_COUNTDOWN]! -= ENTRY_WEIGHT) < 0) __np_l();
  return depth;
}
