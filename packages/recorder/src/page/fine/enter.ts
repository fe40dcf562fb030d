import { ENTRY_WEIGHT, LOOK_COUNTDOWN, SLOT_BITS } from '@nettle-patch/core';

declare const __np_a: Int32Array;
declare const __np_n: Int32Array;
declare const __np_l: () => 0;

/**
 * Enters a function, as rewritten scripts have it done (see `provideLooks`). What it uses are the global names of these
 * scripts, and not variables around it: engines know that those never change, so that little is left of it in the
 * functions that begin with it. As engines compile it for itself first, it calls nothing that it can do without.
 * @returns how many calls are open
 */
export function enter(id: number): number {
  const depth = ++__np_a[0]!;
  __np_a[depth] = id;
  __np_n[id & SLOT_BITS]!++;
  if ((__np_a[LOOK_COUNTDOWN]! -= ENTRY_WEIGHT) < 0) __np_l();
  return depth;
}

/** The same where another thread takes the samples, and nobody looks here. */
export function enterUnlooked(id: number): number {
  const depth = ++__np_a[0]!;
  __np_a[depth] = id;
  __np_n[id & SLOT_BITS]!++;
  return depth;
}
