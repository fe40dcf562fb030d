import type { Anatomy } from '../explanation/anatomy';
import { mostBelow } from '../explanation/most-below';
import { countText } from '../words/figures';
import { functionPart, ms, percent, text, type BecausePart } from '../explanation/sentence';
import { displayName, ownerOf } from '../recording/functions';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { isUnchanged } from '../recording/redraw-effect';
import { rootCalls } from '../stings/root-calls';
import { idleWork } from './idle-work';
import { inferredWriterWords, writtenRedraws } from '../stings/redraw-writers';
import type { StingDetail } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';

export interface RedrawnTooOftenDetail extends StingDetail {
  readonly type: 'redrawn-too-often';
  readonly functionId: number;
  readonly timesASecond: number;
  readonly msASecond: number;
  /** Of its redraws, the share that wrote what was there before. */
  readonly unchangedShare: number;
  /** Of its redraws, the share of which the recording does not tell who wrote. */
  readonly inferredShare: number;
  readonly target: string | undefined;
}

const MIN_TIMES_A_SECOND = 10;
const MIN_UNCHANGED_SHARE = 0.5;
const MIN_SECONDS = 1;

interface Redrawn {
  all: number;
  unchanged: number;
  inferred: number;
  firstMs: number;
  lastMs: number;
  target: string | undefined;
}

function redrawnByFunction(recording: Recording): Map<number, Redrawn> {
  const found = new Map<number, Redrawn>();
  const { redraw } = recording.events;
  const { startMs: starts } = redraw.columns;
  for (const { at, functionId, isKnown } of writtenRedraws(recording, MAIN_THREAD)) {
    const startMs = starts[at]!;
    let redrawn = found.get(functionId);
    if (redrawn === undefined) {
      redrawn = {
        all: 0,
        unchanged: 0,
        inferred: 0,
        firstMs: startMs,
        lastMs: startMs,
        target: undefined,
      };
      found.set(functionId, redrawn);
    }
    redrawn.all++;
    if (!isKnown) redrawn.inferred++;
    redrawn.lastMs = startMs;
    if (!isUnchanged(redraw.columns, at)) continue;
    redrawn.unchanged++;
    redrawn.target ??= redraw.value('target', at);
  }
  return found;
}

/**
 * Functions that draw many times a second and mostly what is there already, also while somebody uses the app. What does
 * so while nobody does anything is told as idle work.
 */
function find(recording: Recording, thresholds: Thresholds): Found<RedrawnTooOftenDetail>[] {
  const idle = new Set(
    idleWork
      .find(recording, thresholds)
      .map(({ detail }) => (detail?.type === 'idle-work' ? detail.functionId : -1)),
  );
  const entered = rootCalls(recording, MAIN_THREAD);
  return [...redrawnByFunction(recording)].flatMap(
    ([functionId, { all, unchanged, inferred, firstMs, lastMs, target }]): Found<RedrawnTooOftenDetail>[] => {
      const recorded = recording.functions.get(functionId);
      const seconds = (lastMs - firstMs) / 1000;
      if (idle.has(functionId) || ownerOf(recorded) === 'browser' || seconds < MIN_SECONDS) return [];
      if (all / seconds < MIN_TIMES_A_SECOND || unchanged / all < MIN_UNCHANGED_SHARE) return [];
      const ms = entered
        .filter((call) => call.functionId === functionId && call.startMs <= lastMs && call.endMs >= firstMs)
        .reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
      if (ms / seconds < thresholds.idleMsASecond) return [];
      return [
        {
          thread: MAIN_THREAD,
          label: `Too many redraws of ${displayName(recorded)}`,
          startMs: firstMs,
          endMs: lastMs,
          feltMs: ms / seconds,
          budgetMs: thresholds.idleMsASecond,
          detail: {
            type: 'redrawn-too-often',
            functionId,
            timesASecond: all / seconds,
            msASecond: ms / seconds,
            unchangedShare: unchanged / all,
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
  detail: RedrawnTooOftenDetail,
): BecausePart[] {
  const { functionId, timesASecond, msASecond, unchangedShare, inferredShare, target } = detail;
  return [
    functionPart(recording, functionId),
    text(` drew ${countText(timesASecond)} times a second and took `),
    ms(msASecond, true),
    text(
      ` of each second; in ${percent(unchangedShare)} of its redraws it wrote to ${target ?? 'the page'} what was there before.${inferredWriterWords(inferredShare)}`,
    ),
    ...mostBelow(recording, thread, functionId),
  ];
}

export const redrawnTooOften: Detector<'too-often', RedrawnTooOftenDetail> = {
  kind: 'too-often',
  detail: 'redrawn-too-often',
  label: 'too often',
  about: 'A function that draws many times a second, and mostly what is there already',
  extent: 'spell',
  isRate: true,
  find,
  because,
};
