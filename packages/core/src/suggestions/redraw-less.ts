import { countText } from '../words/figures';
import { functionPart, percent, text, type BecausePart } from '../explanation/sentence';
import type { Recording, TimeRange } from '../recording/recording';
import { rootCalls } from '../stings/root-calls';
import { inferredWriterWords, writtenRedraws } from '../stings/redraw-writers';
import { isUnchanged, isUnseen, type RedrawColumns } from '../recording/redraw-effect';
import { isOwnFunction } from '../recording/functions';
import type { Adviser } from './suggestion';

const MIN_REDRAWS = 3;
const MIN_SHARE = 0.5;
/** The frame that shows what was written comes this soon after it. */
const NEAR_MS = 100;

interface Group {
  /** Indices among the redraws of the recording. */
  readonly redraws: number[];
  readonly functionId: number;
  /** How many of them do not tell who wrote. */
  inferred: number;
}

function groupsIn(recording: Recording, thread: number, range: TimeRange): Group[] {
  const groups = new Map<number, Group>();
  const starts = recording.events.redraw.columns.startMs;
  for (const { at, functionId, isKnown } of writtenRedraws(recording, thread)) {
    const startMs = starts[at]!;
    if (startMs < range.startMs || startMs > range.endMs + NEAR_MS) continue;
    const group = groups.get(functionId) ?? { redraws: [], functionId, inferred: 0 };
    group.redraws.push(at);
    if (!isKnown) group.inferred++;
    groups.set(functionId, group);
  }
  return [...groups.values()].filter(({ redraws }) => redraws.length >= MIN_REDRAWS);
}

/** Time in which a function that was entered from outside ran, with all it called. Milliseconds. */
function timeOf(recording: Recording, thread: number, range: TimeRange, functionId: number): number {
  return rootCalls(recording, thread)
    .filter(
      (call) => call.functionId === functionId && call.endMs > range.startMs && call.startMs < range.endMs,
    )
    .reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
}

function targetOf({ events: { redraw } }: Recording, redraws: readonly number[]): string {
  const named = redraws.find((at) => redraw.value('target', at) !== undefined);
  return named === undefined ? 'the page' : redraw.value('target', named)!;
}

/**
 * Advice for each function of whose redraws a large part is in vain.
 * @param words what to do and what was seen, from the function, the number of its redraws and of those that are in vain,
 * and what they wrote to
 */
function adviseRedraws(
  kind: string,
  isVain: (columns: RedrawColumns, at: number) => boolean,
  words: (
    name: BecausePart,
    all: number,
    vain: number,
    target: string,
  ) => { advice: BecausePart[]; evidence: string },
): Adviser {
  return (recording, { sting }) =>
    groupsIn(recording, sting.thread, sting).flatMap(({ redraws, functionId, inferred }) => {
      const vain = redraws.filter((at) => isVain(recording.events.redraw.columns, at));
      if (vain.length < redraws.length * MIN_SHARE || !isOwnFunction(recording, functionId)) return [];
      const { advice, evidence } = words(
        functionPart(recording, functionId),
        redraws.length,
        vain.length,
        targetOf(recording, vain),
      );
      const savesMs = timeOf(recording, sting.thread, sting, functionId);
      const told = evidence + inferredWriterWords(inferred / redraws.length);
      return [{ kind, advice, evidence: [text(told)], functionId, range: sting, savesMs }];
    });
}

/** What is written to the page although it is there already. */
export const skipUnchanged = adviseRedraws('skip-unchanged', isUnchanged, (name, all, vain, target) => ({
  advice: [text('Draw in '), name, text(' only when what it shows has changed.')],
  evidence: `${countText(vain)} of its ${countText(all)} redraws wrote to ${target} what was there before (${percent(vain / all)}).`,
}));

/** What is drawn where nobody sees it. */
export const skipUnseen = adviseRedraws(
  'skip-unseen',
  (columns, at) => columns.changed[at] === 1 && isUnseen(columns, at),
  (name, all, vain, target) => ({
    advice: [text('Leave out what '), name, text(' draws outside the view until it is scrolled to.')],
    evidence: `${countText(vain)} of its ${countText(all)} redraws lay outside the view, as in ${target}.`,
  }),
);
