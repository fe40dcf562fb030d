import { canonicalIds } from '../calls/canonical-stacks';
import { callLogOf } from '../calls/call-log';
import { UNSEEN_SCRIPT } from '../recording/functions';
import { memoizedPerThread } from '../recording/memoize';

/** A function that was entered from outside, with all it called. */
export interface RootCall {
  readonly functionId: number;
  readonly startMs: number;
  readonly endMs: number;
}

/** Calls that nothing called, in order of their start; script whose function is not known is left out. */
export const rootCalls = memoizedPerThread((recording, thread): readonly RootCall[] => {
  const { exact, sampled } = callLogOf(recording, thread);
  const idOf = canonicalIds(recording);
  const entered: RootCall[] = [];
  for (const { roots, stacks, startsUs, endsUs } of [exact, sampled]) {
    for (const at of roots) {
      const functionId = idOf(recording.stacks.functionOf(stacks[at]!));
      if (functionId === UNSEEN_SCRIPT || recording.functions.get(functionId)?.activity !== undefined)
        continue;
      entered.push({ functionId, startMs: startsUs[at]! / 1000, endMs: endsUs[at]! / 1000 });
    }
  }
  return entered.sort((a, b) => a.startMs - b.startMs);
});
