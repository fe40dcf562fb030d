import { count, functionPart, percent, text } from '../blame/sentence';
import type { RowContent } from '../format/rows';
import type { Recording, TimeRange } from '../recording/recording';
import { enteredCalls } from '../stings/entered-calls';
import { writtenRedraws } from '../stings/redraw-writers';
import type { Adviser } from './suggestion';

const LEAST_REDRAWS = 3;
const LEAST_SHARE = 0.5;
/** The frame that shows what was written comes this soon after it. */
const NEAR_MS = 100;

interface Group {
  readonly rows: RowContent<'redraw'>[];
  readonly functionId: number;
}

function groupsIn(recording: Recording, thread: number, range: TimeRange): Group[] {
  const groups = new Map<number, Group>();
  for (const { row, functionId } of writtenRedraws(recording, thread)) {
    if (row.startMs < range.startMs || row.startMs > range.endMs + NEAR_MS) continue;
    const group = groups.get(functionId) ?? { rows: [], functionId };
    group.rows.push(row);
    groups.set(functionId, group);
  }
  return [...groups.values()].filter(({ rows }) => rows.length >= LEAST_REDRAWS);
}

/** Time in which a function that was entered from outside ran, with all it called. Milliseconds. */
function timeOf(recording: Recording, thread: number, range: TimeRange, functionId: number): number {
  return enteredCalls(recording, thread)
    .filter(
      (call) => call.functionId === functionId && call.endMs > range.startMs && call.startMs < range.endMs,
    )
    .reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
}

function targetOf(rows: readonly RowContent<'redraw'>[]): string {
  return rows.find(({ target }) => target !== undefined)?.target ?? 'the page';
}

/** What is written to the page although it is there already. */
export const skipUnchanged: Adviser = (recording, { sting }) =>
  groupsIn(recording, sting.thread, sting).flatMap(({ rows, functionId }) => {
    const unchanged = rows.filter(({ changed }) => !changed);
    if (unchanged.length < rows.length * LEAST_SHARE) return [];
    return [
      {
        kind: 'skip-unchanged',
        advice: [
          text('Draw in '),
          functionPart(recording, functionId),
          text(' only when what it shows has changed.'),
        ],
        evidence: [
          text(
            `${count(unchanged.length)} of its ${count(rows.length)} redraws wrote to ${targetOf(unchanged)} what was there before (${percent(unchanged.length / rows.length)}).`,
          ),
        ],
        functionId,
        range: sting,
        savesMs: timeOf(recording, sting.thread, sting, functionId),
      },
    ];
  });

/** What is drawn where nobody sees it. */
export const skipUnseen: Adviser = (recording, { sting }) =>
  groupsIn(recording, sting.thread, sting).flatMap(({ rows, functionId }) => {
    const unseen = rows.filter(({ changed, inView }) => changed && !inView);
    if (unseen.length < rows.length * LEAST_SHARE) return [];
    return [
      {
        kind: 'skip-unseen',
        advice: [
          text('Leave out what '),
          functionPart(recording, functionId),
          text(' draws outside the view until it is scrolled to.'),
        ],
        evidence: [
          text(
            `${count(unseen.length)} of its ${count(rows.length)} redraws lay outside the view, as in ${targetOf(unseen)}.`,
          ),
        ],
        functionId,
        range: sting,
        savesMs: timeOf(recording, sting.thread, sting, functionId),
      },
    ];
  });
