import { canonicalIds } from '../calls/canonical-stacks';
import { displayName, ownerOf } from '../recording/functions';
import { MAIN_THREAD, callsOf, type Recording } from '../recording/recording';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/** Adds up, for the task at hand, how often each stack was called and for how long. */
class TaskCounts {
  readonly #counts: Uint32Array;
  readonly #us: Float64Array;
  readonly #met: number[] = [];

  constructor(stacks: number) {
    this.#counts = new Uint32Array(stacks);
    this.#us = new Float64Array(stacks);
  }

  add(stack: number, lengthUs: number): void {
    if (this.#counts[stack]!++ === 0) this.#met.push(stack);
    this.#us[stack]! += lengthUs;
  }

  /** Those called at least so often, and starts anew. */
  take(least: number): { stack: number; count: number; totalMs: number }[] {
    const often = this.#met
      .filter((stack) => this.#counts[stack]! >= least)
      .map((stack) => ({ stack, count: this.#counts[stack]!, totalMs: this.#us[stack]! / 1000 }));
    for (const stack of this.#met) this.#counts[stack] = this.#us[stack] = 0;
    this.#met.length = 0;
    return often;
  }
}

/**
 * Own functions that one task called so often that the calls together took longer than a frame. Exact calls only: no
 * sample counts calls.
 */
export function findTooOften(recording: Recording, thresholds: Thresholds): Sting[] {
  const calls = callsOf(recording, MAIN_THREAD);
  const { stacks } = recording;
  const idOf = canonicalIds(recording);
  const counts = new TaskCounts(stacks.length);
  const stings: Sting[] = [];
  const isOwn = (stack: number) => ownerOf(recording.functions.get(idOf(stacks.functionOf(stack)))) === 'own';
  const close = (root: number) => {
    const often = counts
      .take(thresholds.callsATask)
      .filter(({ stack, totalMs }) => totalMs > recording.header.refreshMs && isOwn(stack))
      .sort((a, b) => b.totalMs - a.totalMs)[0];
    if (often === undefined) return;
    const functionId = idOf(stacks.functionOf(often.stack));
    stings.push({
      kind: 'too-often',
      also: [],
      thread: MAIN_THREAD,
      label: `Too many calls of ${displayName(recording.functions.get(functionId))}`,
      startMs: calls.startsUs[root]! / 1000,
      endMs: calls.endsUs[root]! / 1000,
      feltMs: often.totalMs,
      budgetMs: recording.header.refreshMs,
      detail: { type: 'too-often', functionId, calls: often.count, totalMs: often.totalMs },
    });
  };
  let root = -1;
  for (let at = 0; at < calls.length; at++) {
    if (calls.depths[at] === 0) {
      if (root >= 0) close(root);
      root = at;
    }
    counts.add(calls.stacks[at]!, calls.endsUs[at]! - calls.startsUs[at]!);
  }
  if (root >= 0) close(root);
  return stings;
}
