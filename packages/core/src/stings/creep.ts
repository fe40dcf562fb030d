import { interactionsOf } from '../inputs/interactions';
import { displayName } from '../recording/functions';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { growthChance } from '../statistics/growth';
import { holm } from '../statistics/holm';
import { theilSen } from '../statistics/theil-sen';
import { enteredCalls, type EnteredCall } from './entered-calls';
import { withinRanges } from './quiet';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/** Recordings are cut into at most so many stretches, none shorter than this: neighbours are then nearly independent. */
const MAX_STRETCHES = 60;
const MIN_STRETCH_MS = 1000;
/** Of the stretches since it first ran, the share in which a function must have run. */
const MIN_SHARE = 0.6;
/** A cost that did not grow by half is none that creeps. */
const MIN_GROWTH = 1.5;
/** Chance, over all functions together, of telling of a creep where there is none. */
const ERROR_RATE = 0.05;

/** What a function took in each stretch. */
interface Costs {
  readonly functionId: number;
  readonly ms: Float64Array;
  readonly runs: Uint32Array;
}

/** Calls that no input asked for: what answers a person costs what the person does. */
function unasked(recording: Recording): EnteredCall[] {
  const answers = interactionsOf(recording)
    .map(({ processingStartMs, processingEndMs }) => ({ startMs: processingStartMs, endMs: processingEndMs }))
    .sort((a, b) => a.startMs - b.startMs);
  const isAnswer = withinRanges(answers);
  return enteredCalls(recording, MAIN_THREAD).filter(({ startMs }) => !isAnswer(startMs));
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

function meanOf(values: ArrayLike<number>, from: number, to: number): number {
  let sum = 0;
  for (let at = from; at < to; at++) sum += values[at]!;
  return sum / Math.max(1, to - from);
}

/** Means of the first and of the last quarter of some columns. */
function endsOf(values: ArrayLike<number>, from: number): { first: number; last: number } {
  const quarter = Math.ceil((values.length - from) / 4);
  return {
    first: meanOf(values, from, from + quarter),
    last: meanOf(values, values.length - quarter, values.length),
  };
}

/**
 * Functions whose cost a second grows for as long as the app runs: by the test of Mann and Kendall on the second half of
 * the stretches since they first ran, so that neither a warm-up nor one step counts, and at an error rate over all
 * functions together.
 */
export function findCreep(recording: Recording, thresholds: Thresholds): Sting[] {
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
    ERROR_RATE,
  );
  return tested.flatMap(({ functionId, ms, runs, first }, index): Sting[] => {
    if (!grows[index]) return [];
    const aSecond = ms.map((value) => value / seconds);
    const [cost, often] = [endsOf(aSecond, first), endsOf(runs, first)];
    const grew = cost.last - cost.first >= thresholds.creepMsASecond && cost.last >= cost.first * MIN_GROWTH;
    const minutes = Array.from({ length: stretches - first }, (_, at) => ((first + at) * seconds) / 60);
    const slope = theilSen(minutes, Array.from(aSecond.subarray(first)));
    if (!grew || slope === undefined) return [];
    return [
      {
        kind: 'creep',
        also: [],
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
          slope,
          runs: { from: often.first / seconds, to: often.last / seconds },
        },
      },
    ];
  });
}
