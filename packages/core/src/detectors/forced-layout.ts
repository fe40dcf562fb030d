import type { Anatomy } from '../explanation/anatomy';
import { functionPart, ms, text, times, type BecausePart } from '../explanation/sentence';
import { writeWords } from '../explanation/write-words';
import { canonicalFunction } from '../attribution/call-path';
import { displayName } from '../recording/functions';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import type { StingDetail } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';

export interface ForcedLayoutDetail extends StingDetail {
  readonly type: 'forced-layout';
  readonly functionId: number | undefined;
  readonly count: number;
  readonly read: string;
}

/** @param name of the function that forced it, where it is known */
export function forcedLabel(name: string | undefined): string {
  return `Layout forced by ${name ?? 'script'}`;
}

/** Places that made the browser lay out again and again inside one task. */
function find(recording: Recording, thresholds: Thresholds): Found<ForcedLayoutDetail>[] {
  const stings: Found<ForcedLayoutDetail>[] = [];
  for (const row of recording.events.forced.rows()) {
    if (row.thread !== MAIN_THREAD) continue;
    if (row.count < thresholds.forcedTimes || row.costMs < thresholds.forcedMs) continue;
    const functionId = row.function === undefined ? undefined : canonicalFunction(recording, row.function);
    const name = functionId === undefined ? undefined : displayName(recording.functions.get(functionId));
    stings.push({
      thread: MAIN_THREAD,
      label: forcedLabel(name),
      startMs: row.startMs,
      endMs: row.startMs + row.durationMs,
      feltMs: row.costMs,
      budgetMs: thresholds.forcedMs,
      detail: { type: 'forced-layout', functionId, count: row.count, read: row.read },
    });
  }
  return stings;
}

function because(
  recording: Recording,
  { sting, forced }: Anatomy,
  detail: ForcedLayoutDetail,
): BecausePart[] {
  const row = forced.find(({ startMs, read }) => startMs === sting.startMs && read === detail.read);
  const by = detail.functionId === undefined ? text('Script') : functionPart(recording, detail.functionId);
  return [
    by,
    text(` made the browser lay the page out ${times(detail.count)} in one task, by reading ${detail.read}`),
    text(row?.write === undefined ? ': ' : ` after ${writeWords(row.write)}: `),
    ms(sting.feltMs, true),
    text(', in which nothing else could run.'),
  ];
}

export const forcedLayout: Detector<'forced-layout', ForcedLayoutDetail> = {
  kind: 'forced-layout',
  detail: 'forced-layout',
  label: 'forced layout',
  about: 'One place had the page laid out `forcedTimes` times or more in one task, for `forcedMs` or longer',
  extent: 'spell',
  isRate: false,
  find,
  because,
};
