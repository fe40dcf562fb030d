import { callWeights } from '../recording/call-weights';
import { callsOf, type Recording, type TimeRange } from '../recording/recording';
import { canonicalFunction } from './call-path';

/**
 * How often each function was called in a range, as exact calls tell; those that began before it count where they
 * reach into it.
 */
export function callCounts(recording: Recording, thread: number, range: TimeRange): Map<number, number> {
  const spans = callsOf(recording, thread);
  const weightOf = callWeights(recording);
  const ofStack = new Map<number, number>();
  const count = (at: number) => ofStack.set(spans.stacks[at]!, (ofStack.get(spans.stacks[at]!) ?? 0) + 1);
  spans.eachOverlapping(range.startMs * 1000, range.endMs * 1000, count);
  const counts = new Map<number, number>();
  for (const [stack, times] of ofStack) {
    const functionId = canonicalFunction(recording, recording.stacks.functionOf(stack));
    const calls = times * weightOf(stack);
    if (calls > 0) counts.set(functionId, (counts.get(functionId) ?? 0) + calls);
  }
  return counts;
}
