import { countText } from '../words/figures';
import { functionPart, percent, text, type BecausePart } from '../explanation/sentence';
import type { RowContent } from '../format/rows';
import type { Recording, TimeRange } from '../recording/recording';
import { rootCalls } from '../stings/root-calls';
import { inferredWriterWords, writtenRedraws } from '../stings/redraw-writers';
import { isOwnFunction } from '../recording/functions';
import type { Adviser } from './suggestion';

const MIN_REDRAWS = 3;
const MIN_SHARE = 0.5;
/** The frame that shows what was written comes this soon after it. */
const NEAR_MS = 100;

type RedrawRow = RowContent<'redraw'>;

interface Group {
  readonly rows: RedrawRow[];
  readonly functionId: number;
  /** How many of the rows do not tell who wrote. */
  inferred: number;
}

function groupsIn(recording: Recording, thread: number, range: TimeRange): Group[] {
  const groups = new Map<number, Group>();
  for (const { at, functionId, isKnown } of writtenRedraws(recording, thread)) {
    const row = recording.events.redraw.row(at);
    if (row.startMs < range.startMs || row.startMs > range.endMs + NEAR_MS) continue;
    const group = groups.get(functionId) ?? { rows: [], functionId, inferred: 0 };
    group.rows.push(row);
    if (!isKnown) group.inferred++;
    groups.set(functionId, group);
  }
  return [...groups.values()].filter(({ rows }) => rows.length >= MIN_REDRAWS);
}

/** Time in which a function that was entered from outside ran, with all it called. Milliseconds. */
function timeOf(recording: Recording, thread: number, range: TimeRange, functionId: number): number {
  return rootCalls(recording, thread)
    .filter(
      (call) => call.functionId === functionId && call.endMs > range.startMs && call.startMs < range.endMs,
    )
    .reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
}

function targetOf(rows: readonly RedrawRow[]): string {
  return rows.find(({ target }) => target !== undefined)?.target ?? 'the page';
}

/**
 * Advice for each function of whose redraws a large part is in vain.
 * @param words what to do and what was seen, from the function, its redraws and those of them that are in vain
 */
function adviseRedraws(
  kind: string,
  isVain: (row: RedrawRow) => boolean,
  words: (
    name: BecausePart,
    rows: readonly RedrawRow[],
    vain: readonly RedrawRow[],
  ) => { advice: BecausePart[]; evidence: string },
): Adviser {
  return (recording, { sting }) =>
    groupsIn(recording, sting.thread, sting).flatMap(({ rows, functionId, inferred }) => {
      const vain = rows.filter(isVain);
      if (vain.length < rows.length * MIN_SHARE || !isOwnFunction(recording, functionId)) return [];
      const { advice, evidence } = words(functionPart(recording, functionId), rows, vain);
      const savesMs = timeOf(recording, sting.thread, sting, functionId);
      const told = evidence + inferredWriterWords(inferred / rows.length);
      return [{ kind, advice, evidence: [text(told)], functionId, range: sting, savesMs }];
    });
}

/** What is written to the page although it is there already. */
export const skipUnchanged = adviseRedraws(
  'skip-unchanged',
  ({ changed }) => !changed,
  (name, rows, vain) => ({
    advice: [text('Draw in '), name, text(' only when what it shows has changed.')],
    evidence: `${countText(vain.length)} of its ${countText(rows.length)} redraws wrote to ${targetOf(vain)} what was there before (${percent(vain.length / rows.length)}).`,
  }),
);

/** What is drawn where nobody sees it. */
export const skipUnseen = adviseRedraws(
  'skip-unseen',
  ({ changed, inView }) => changed && !inView,
  (name, rows, vain) => ({
    advice: [text('Leave out what '), name, text(' draws outside the view until it is scrolled to.')],
    evidence: `${countText(vain.length)} of its ${countText(rows.length)} redraws lay outside the view, as in ${targetOf(vain)}.`,
  }),
);
