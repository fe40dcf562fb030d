import type { Anatomy } from '../explanation/anatomy';
import { mostBelow } from '../explanation/most-below';
import { decimalText, countText } from '../words/figures';
import { functionPart, ms, percent, text, type BecausePart } from '../explanation/sentence';
import { displayName, ownerOf } from '../recording/functions';
import { MAIN_THREAD, type Recording, type TimeRange } from '../recording/recording';
import { isUnchanged, isUnseen } from '../recording/redraw-effect';
import { rootCalls } from '../stings/root-calls';
import { idleIntervals, withinRanges } from '../stings/idle-intervals';
import { inferredWriterWords, writtenRedraws } from '../stings/redraw-writers';
import type { StingDetail } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';
import { first, last } from '../lists/items';

export interface IdleWorkDetail extends StingDetail {
  readonly type: 'idle-work';
  readonly functionId: number;
  /** Runs a second, and what they cost together. */
  readonly timesASecond: number;
  readonly msASecond: number;
  /** Of what it wrote to the page, the share that was the same before, or that nobody could see. */
  readonly unchangedShare: number;
  readonly unseenShare: number;
  /** Of its redraws, the share of which the recording does not tell who wrote. */
  readonly inferredShare: number;
  readonly target: string | undefined;
}

/** Of what was written, the share that must have changed nothing anybody could see. */
const MIN_VAIN_SHARE = 2 / 3;
const MIN_REDRAWS = 2;

interface Redraws {
  all: number;
  unchanged: number;
  unseen: number;
  inferred: number;
  vain: number;
  target: string | undefined;
}

function redrawsByFunction(recording: Recording, quiet: readonly TimeRange[]): Map<number, Redraws> {
  const found = new Map<number, Redraws>();
  const isQuiet = withinRanges(quiet);
  const { redraw } = recording.events;
  const { startMs } = redraw.columns;
  for (const { at, functionId, isKnown } of writtenRedraws(recording, MAIN_THREAD)) {
    if (!isQuiet(startMs[at]!)) continue;
    const redraws = found.get(functionId) ?? {
      all: 0,
      unchanged: 0,
      unseen: 0,
      inferred: 0,
      vain: 0,
      target: undefined,
    };
    found.set(functionId, redraws);
    redraws.all++;
    if (!isKnown) redraws.inferred++;
    const wasThere = isUnchanged(redraw.columns, at);
    const isHidden = isUnseen(redraw.columns, at);
    if (wasThere) redraws.unchanged++;
    if (isHidden) redraws.unseen++;
    if (!wasThere && !isHidden) continue;
    redraws.vain++;
    redraws.target ??= redraw.value('target', at);
  }
  return found;
}

/**
 * Work while nobody does anything whose redraws change nothing, or nothing that can be seen. Only what is known to
 * have written to the page in vain is named: what draws on a canvas, or writes nothing, may have its use.
 */
function find(recording: Recording, thresholds: Thresholds): Found<IdleWorkDetail>[] {
  const quiet = idleIntervals(recording);
  const quietMs = quiet.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
  if (quietMs === 0) return [];
  const entered = rootCalls(recording, MAIN_THREAD);
  const redraws = redrawsByFunction(recording, quiet);
  const isQuiet = withinRanges(quiet);
  const runs = entered.filter(({ startMs }) => isQuiet(startMs));
  return [...redraws].flatMap(
    ([functionId, { all, unchanged, unseen, inferred, vain, target }]): Found<IdleWorkDetail>[] => {
      const recorded = recording.functions.get(functionId);
      if (vain < MIN_REDRAWS || vain / all < MIN_VAIN_SHARE || ownerOf(recorded) === 'browser') return [];
      const own = runs.filter((run) => run.functionId === functionId);
      const seconds = quietMs / 1000;
      const msASecond = own.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0) / seconds;
      if (own.length === 0 || msASecond < thresholds.idleMsASecond) return [];
      return [
        {
          thread: MAIN_THREAD,
          label: `Idle work of ${displayName(recorded)}`,
          startMs: first(own).startMs,
          endMs: last(own).endMs,
          feltMs: msASecond,
          budgetMs: thresholds.idleMsASecond,
          detail: {
            type: 'idle-work',
            functionId,
            culprit: { functionId, besidesMsASecond: 0 },
            timesASecond: own.length / seconds,
            msASecond,
            unchangedShare: unchanged / all,
            unseenShare: unseen / all,
            inferredShare: inferred / all,
            target,
          },
        },
      ];
    },
  );
}

function because(
  recording: Recording,
  { sting: { thread } }: Anatomy,
  detail: IdleWorkDetail,
): BecausePart[] {
  const { functionId, timesASecond, msASecond, unchangedShare, unseenShare, inferredShare, target } = detail;
  const often =
    timesASecond >= 1.5
      ? `${countText(timesASecond)} times a second`
      : `every ${decimalText(1 / timesASecond, 1)} s`;
  const where = target === undefined ? 'the page' : target;
  const vain =
    unchangedShare >= unseenShare
      ? `in ${percent(unchangedShare)} of its redraws it wrote to ${where} what was there before`
      : `in ${percent(unseenShare)} of its redraws nothing that changed could be seen, as in ${where}`;
  return [
    text('While nobody did anything, '),
    functionPart(recording, functionId),
    text(` ran ${often} and took `),
    ms(msASecond, true),
    text(` of each second; ${vain}.${inferredWriterWords(inferredShare)}`),
    ...mostBelow(recording, thread, functionId),
  ];
}

export const idleWork: Detector<'idle-work', IdleWorkDetail> = {
  kind: 'idle-work',
  detail: 'idle-work',
  label: 'idle work',
  about:
    'Work while nobody does anything whose redraws change nothing that can be seen, for `idleMsASecond` of each second or more',
  extent: 'course',
  isRate: true,
  find,
  because,
};
