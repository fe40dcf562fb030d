import { canonicalIds } from '../calls/canonical-stacks';
import { memoizedPerThread } from '../recording/memoize';
import type { Recording } from '../recording/recording';
import { handlerOf } from '../inputs/links';
import { percentText } from '../words/figures';
import { rootCalls } from './root-calls';

/** What is drawn longer than this after a function ran is not its doing. */
const NEAR_MS = 100;

export interface WrittenRedraw {
  /** Index among the redraws of the recording. */
  readonly at: number;
  /** Function whose redraw it is: as the row says, or else the one that ran last before it. */
  readonly functionId: number;
  /** Whether the recording says so; else it is concluded. */
  readonly isKnown: boolean;
}

/** The function whose redraw it is, as the row says or the handler that it names. @param at index among the redraws */
export function redrawWriter(recording: Recording, at: number): number | undefined {
  const { redraw } = recording.events;
  const by = redraw.value('by', at);
  return redraw.value('function', at) ?? (by === undefined ? undefined : handlerOf(recording, by)?.function);
}

/**
 * Says that the writer of redraws is inferred, where the recording does not tell it; empty where it tells all.
 * @param share of the redraws in question of which it does not tell it, 0 to 1
 */
export function inferredWriterWords(share: number): string {
  if (share === 0) return '';
  const which = share === 1 ? '' : ` in ${percentText(share)} of them`;
  return ` Who wrote is inferred${which}: the recording does not tell it, and this ran last before.`;
}

/** The redraws of a thread whose writer is known or can be inferred, in order of time. */
export const writtenRedraws = memoizedPerThread((recording, thread): readonly WrittenRedraw[] => {
  const entered = rootCalls(recording, thread);
  const idOf = canonicalIds(recording);
  const written: WrittenRedraw[] = [];
  const { startMs: starts, thread: threads } = recording.events.redraw.columns;
  let next = 0;
  for (let at = 0; at < starts.length; at++) {
    const startMs = starts[at]!;
    while (next < entered.length && entered[next]!.startMs <= startMs) next++;
    if (threads[at] !== thread) continue;
    const latest = entered[next - 1];
    const writer = redrawWriter(recording, at);
    if (writer !== undefined) written.push({ at, functionId: idOf(writer), isKnown: true });
    else if (latest !== undefined && startMs - latest.endMs <= NEAR_MS) {
      written.push({ at, functionId: latest.functionId, isKnown: false });
    }
  }
  return written;
});
