import { functionIdentities } from './function-identities';
import { closerOf } from './closer';
import { memoizedPerRecording } from './memoize';

/**
 * For the stack of an exact call, how many calls it stands for: many where of a quick function one of many was timed, none
 * where it only stands around a function that was looked at closer.
 */
export const callWeights = memoizedPerRecording((recording): ((stack: number) => number) => {
  const { functions, stacks } = recording;
  const closer = closerOf(recording);
  return (stack) => {
    if (closer?.isWithin(stack) === false) return 0;
    return functions.get(stacks.functionOf(stack))?.every ?? 1;
  };
});

/** Functions of which one of many calls was timed, by the ids that stand for them. */
export const quickFunctions = memoizedPerRecording((recording): ReadonlySet<number> => {
  const identities = functionIdentities(recording);
  const quick = [...recording.functions.values()].filter(({ every }) => every !== undefined);
  return new Set(quick.map(({ id }) => identities.get(id) ?? id));
});
