import { canonicalIds } from '../calls/canonical-stacks';
import type { RowContent } from '../format/rows';
import { oncePerThread } from '../recording/once';
import { enteredCalls } from './entered-calls';

/** What is drawn longer than this after a function ran is not its doing. */
const NEAR_MS = 100;

export interface WrittenRedraw {
  readonly row: RowContent<'redraw'>;
  /** Function whose redraw it is: as the row says, or else the one that ran last before it. */
  readonly functionId: number;
}

/** The redraws of a thread whose writer is known, in order of time. */
export const writtenRedraws = oncePerThread((recording, thread): readonly WrittenRedraw[] => {
  const entered = enteredCalls(recording, thread);
  const idOf = canonicalIds(recording);
  const written: WrittenRedraw[] = [];
  let next = 0;
  for (const row of recording.events.redraw.rows()) {
    while (next < entered.length && entered[next]!.startMs <= row.startMs) next++;
    if (row.thread !== thread) continue;
    const latest = entered[next - 1];
    if (row.function !== undefined) written.push({ row, functionId: idOf(row.function) });
    else if (latest !== undefined && row.startMs - latest.endMs <= NEAR_MS) {
      written.push({ row, functionId: latest.functionId });
    }
  }
  return written;
});
