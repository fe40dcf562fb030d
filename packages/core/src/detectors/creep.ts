import type { Anatomy } from '../explanation/anatomy';
import { mostBelow } from '../explanation/most-below';
import { decimalText, countText } from '../words/figures';
import { functionPart, ms, text, type BecausePart } from '../explanation/sentence';
import type { Slope } from '../statistics/theil-sen';
import { interactionsOf } from '../inputs/interactions';
import { displayName } from '../recording/functions';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { growthChance } from '../statistics/growth';
import { holm } from '../statistics/holm';
import { rootCalls, type RootCall } from '../stings/root-calls';
import { CREEP_ERROR_RATE, endsOf, grownBy } from './grown';
import { withinRanges } from '../stings/idle-intervals';
import type { StingDetail } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';

export interface CreepDetail extends StingDetail {
  readonly type: 'creep';
  readonly functionId: number;
  /** Cost a second in the first and in the last quarter. */
  readonly fromMs: number;
  readonly toMs: number;
  /** Growth of the cost a second, in milliseconds a minute, with its 95 % interval. */
  readonly slope: Slope;
  /** How often it ran a second in the first and in the last quarter. */
  readonly runs: { readonly from: number; readonly to: number };
}

/** Recordings are cut into at most so many stretches, none shorter than this: neighbours are then nearly independent. */
const MAX_STRETCHES = 60;
const MIN_STRETCH_MS = 1000;
/** Of the stretches since it first ran, the share in which a function must have run. */
const MIN_SHARE = 0.6;

/** What a function took in each stretch. */
interface Costs {
  readonly functionId: number;
  readonly ms: Float64Array;
  readonly runs: Uint32Array;
}

/** Calls that no input asked for: what answers a person costs what the person does. */
function unasked(recording: Recording): RootCall[] {
  const answers = interactionsOf(recording)
    .map(({ processingStartMs, processingEndMs }) => ({ startMs: processingStartMs, endMs: processingEndMs }))
    .sort((a, b) => a.startMs - b.startMs);
  const isAnswer = withinRanges(answers);
  return rootCalls(recording, MAIN_THREAD).filter(({ startMs }) => !isAnswer(startMs));
}

function costsByStretch(recording: Recording, stretches: number, stretchMs: number): Costs[] {
  const found = new Map<number, Costs>();
  for (const { functionId, startMs, endMs } of unasked(recording)) {
    const at = Math.floor(startMs / stretchMs);
    if (at < 0 || at >= stretches) continue;
    let costs = found.get(functionId);
    if (costs === undefined) {
      costs = { functionId, ms: new Float64Array(stretches), runs: new Uint32Array(stretches) };
      found.set(functionId, costs);
    }
    costs.ms[at]! += endMs - startMs;
    costs.runs[at]!++;
  }
  return [...found.values()];
}

/**
 * Functions whose cost a second grows for as long as the app runs: by the test of Mann and Kendall on the second half of
 * the stretches since they first ran, so that neither a warm-up nor one step counts, and at an error rate over all
 * functions together.
 */
function find(recording: Recording, thresholds: Thresholds): Found<CreepDetail>[] {
  const lengthMs = recording.range.endMs;
  const stretchMs = Math.max(MIN_STRETCH_MS, lengthMs / MAX_STRETCHES);
  const stretches = Math.floor(lengthMs / stretchMs);
  const seconds = stretchMs / 1000;
  const tested = costsByStretch(recording, stretches, stretchMs).flatMap((costs) => {
    const first = costs.runs.findIndex((count) => count > 0);
    const ran = costs.runs.reduce((sum, count) => sum + (count > 0 ? 1 : 0), 0);
    const isSteady = ran / (stretches - first) >= MIN_SHARE;
    return isSteady ? [{ ...costs, first, p: growthChance(costs.ms.subarray(first)) }] : [];
  });
  const grows = holm(
    tested.map(({ p }) => p),
    CREEP_ERROR_RATE,
  );
  return tested.flatMap(({ functionId, ms, runs, first }, index): Found<CreepDetail>[] => {
    if (!grows[index]) return [];
    const aSecond = ms.subarray(first).map((value) => value / seconds);
    const cost = grownBy(aSecond, (at) => ((first + at) * seconds) / 60, thresholds);
    if (cost === undefined) return [];
    const often = endsOf(runs.subarray(first));
    return [
      {
        thread: MAIN_THREAD,
        label: `Growing cost of ${displayName(recording.functions.get(functionId))}`,
        startMs: first * stretchMs,
        endMs: lengthMs,
        feltMs: cost.last,
        budgetMs: cost.first + thresholds.creepMsASecond,
        detail: {
          type: 'creep',
          functionId,
          fromMs: cost.first,
          toMs: cost.last,
          slope: cost.slope,
          runs: { from: often.first / seconds, to: often.last / seconds },
        },
      },
    ];
  });
}

function because(recording: Recording, { sting: { thread } }: Anatomy, detail: CreepDetail): BecausePart[] {
  const { functionId, fromMs, toMs, slope, runs } = detail;
  const more = runs.to > runs.from * 1.25;
  const why = more
    ? `It ran ${decimalText(runs.from, 1)} times a second at first and ${decimalText(runs.to, 1)} times at the end.`
    : 'It ran no more often than before, so each run costs more.';
  return [
    text('The longer the app ran, the more '),
    functionPart(recording, functionId),
    text(' took: '),
    ms(fromMs),
    text(' of each second at first, '),
    ms(toMs, true),
    text(
      ` at the end. That is ${countText(slope.slope)} ms more each minute (${countText(slope.low)} to ${countText(slope.high)}). ${why}`,
    ),
    ...mostBelow(recording, thread, functionId),
  ];
}

export const creep: Detector<'creep', CreepDetail> = {
  kind: 'creep',
  detail: 'creep',
  label: 'creep',
  about: 'A function whose cost a second grows for as long as the app runs, by `creepMsASecond` or more',
  extent: 'course',
  isRate: true,
  find,
  because,
};
