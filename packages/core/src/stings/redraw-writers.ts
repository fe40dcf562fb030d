import { canonicalIds } from '../calls/canonical-stacks';
import { ABSENT_WHOLE } from '../recording/column';
import { oncePerThread } from '../recording/once';
import { enteredCalls } from './entered-calls';

/** What is drawn longer than this after a function ran is not its doing. */
const NEAR_MS = 100;

export interface WrittenRedraw {
  /** Index among the redraws of the recording. */
  readonly at: number;
  /** Function whose redraw it is: as the row says, or else the one that ran last before it. */
  readonly functionId: number;
}

/** The redraws of a thread whose writer is known, in order of time. */
export const writtenRedraws = oncePerThread((recording, thread): readonly WrittenRedraw[] => {
  const entered = enteredCalls(recording, thread);
  const idOf = canonicalIds(recording);
  const written: WrittenRedraw[] = [];
  const { startMs: starts, thread: threads, function: writers } = recording.events.redraw.columns;
  let next = 0;
  for (let at = 0; at < starts.length; at++) {
    const startMs = starts[at]!;
    while (next < entered.length && entered[next]!.startMs <= startMs) next++;
    if (threads[at] !== thread) continue;
    const latest = entered[next - 1];
    if (writers[at] !== ABSENT_WHOLE) written.push({ at, functionId: idOf(writers[at]!) });
    else if (latest !== undefined && startMs - latest.endMs <= NEAR_MS) {
      written.push({ at, functionId: latest.functionId });
    }
  }
  return written;
});
