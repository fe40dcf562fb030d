import { quickFunctions } from '../recording/call-weights';
import { countedBetween } from '../recording/counted-calls';
import type { Recording, TimeRange } from '../recording/recording';
import type { Culprit } from './culprits';

/**
 * How often a function was called, at least and at most: exact calls tell one number, counts taken once a second two.
 * @param culprit the function, and its calls as exact calls tell
 * @param thread that it ran on
 * @param range in which it was called
 * @returns undefined where neither tells, and of a quick function, of which one call of many was timed
 */
export function calledBetween(
  recording: Recording,
  culprit: Pick<Culprit, 'functionId' | 'count'>,
  thread: number,
  range: TimeRange,
): { readonly least: number; readonly most: number } | undefined {
  const { functionId, count } = culprit;
  if (count > 0) return quickFunctions(recording).has(functionId) ? undefined : { least: count, most: count };
  const counted = countedBetween(recording, thread, range, functionId);
  return counted.most === 0 ? undefined : counted;
}
