import { canonicalIds } from '../calls/canonical-stacks';
import { displayName, ownerOf } from '../recording/functions';
import { MAIN_THREAD, callsOf, type Recording } from '../recording/recording';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/**
 * Own functions that one task called so often that the calls together took longer than a frame. Exact calls only: no
 * sample counts calls.
 */
export function findTooOften(recording: Recording, thresholds: Thresholds): Sting[] {
  const calls = callsOf(recording, MAIN_THREAD);
  const { stacks } = recording;
  const idOf = canonicalIds(recording);
  const counts = new Uint32Array(stacks.length);
  const lengthsUs = new Float64Array(stacks.length);
  const met: number[] = [];
  const stings: Sting[] = [];
  const isOwn = (stack: number) => ownerOf(recording.functions.get(idOf(stacks.functionOf(stack)))) === 'own';
  const close = (root: number) => {
    let often: number | undefined;
    for (const stack of met) {
      const us = lengthsUs[stack]!;
      const isOften = counts[stack]! >= thresholds.callsATask && us / 1000 > recording.header.refreshMs;
      if (isOften && us > (often === undefined ? 0 : lengthsUs[often]!) && isOwn(stack)) often = stack;
    }
    const [calledTimes, totalMs] = often === undefined ? [0, 0] : [counts[often]!, lengthsUs[often]! / 1000];
    for (const stack of met) counts[stack] = lengthsUs[stack] = 0;
    met.length = 0;
    if (often === undefined) return;
    const functionId = idOf(stacks.functionOf(often));
    stings.push({
      kind: 'too-often',
      also: [],
      thread: MAIN_THREAD,
      label: `Too many calls of ${displayName(recording.functions.get(functionId))}`,
      startMs: calls.startsUs[root]! / 1000,
      endMs: calls.endsUs[root]! / 1000,
      feltMs: totalMs,
      budgetMs: recording.header.refreshMs,
      detail: { type: 'too-often', functionId, calls: calledTimes, totalMs },
    });
  };
  const { startsUs, endsUs, stacks: stackIds, roots } = calls;
  const leastUs = recording.header.refreshMs * 1000;
  roots.forEach((root, index) => {
    if (endsUs[root]! - startsUs[root]! <= leastUs) return;
    const end = roots[index + 1] ?? calls.length;
    for (let at = root; at < end; at++) {
      const stack = stackIds[at]!;
      const count = counts[stack]!;
      if (count === 0) met.push(stack);
      counts[stack] = count + 1;
      lengthsUs[stack] = lengthsUs[stack]! + endsUs[at]! - startsUs[at]!;
    }
    close(root);
  });
  return stings;
}
