import { interactionsOf } from '../inputs/interactions';
import { displayName } from '../recording/functions';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { theilSen } from '../statistics/theil-sen';
import { enteredCalls, type EnteredCall } from './entered-calls';
import { withinRanges } from './quiet';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/** Shorter recordings, in seconds, tell of no trend. */
const LEAST_SECONDS = 8;
/** Of the seconds since it first ran, the share in which a function must have run. */
const LEAST_SHARE = 0.6;
/** A cost that did not grow by half is none that creeps. */
const LEAST_GROWTH = 1.5;

/** What a function took in each second. */
interface Costs {
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

function costsBySecond(recording: Recording, seconds: number): Map<number, Costs> {
  const found = new Map<number, Costs>();
  for (const { functionId, startMs, endMs } of unasked(recording)) {
    const second = Math.floor(startMs / 1000);
    if (second < 0 || second >= seconds) continue;
    let costs = found.get(functionId);
    if (costs === undefined) {
      costs = { ms: new Float64Array(seconds), runs: new Uint32Array(seconds) };
      found.set(functionId, costs);
    }
    costs.ms[second]! += endMs - startMs;
    costs.runs[second]!++;
  }
  return found;
}

function meanOf(values: ArrayLike<number>, from: number, to: number): number {
  let sum = 0;
  for (let at = from; at < to; at++) sum += values[at]!;
  return sum / Math.max(1, to - from);
}

/** Functions whose cost a second grows as the app runs, by the robust slope of all seconds since they first ran. */
export function findCreep(recording: Recording, thresholds: Thresholds): Sting[] {
  const seconds = Math.floor(recording.range.endMs / 1000);
  if (seconds < LEAST_SECONDS) return [];
  return [...costsBySecond(recording, seconds)].flatMap(([functionId, { ms, runs }]): Sting[] => {
    const first = runs.findIndex((count) => count > 0);
    const ran = runs.reduce((sum, count) => sum + (count > 0 ? 1 : 0), 0);
    if (seconds - first < LEAST_SECONDS || ran / (seconds - first) < LEAST_SHARE) return [];
    const times = Array.from({ length: seconds - first }, (_, index) => (first + index) / 60);
    const slope = theilSen(times, Array.from(ms.subarray(first)));
    const quarter = Math.ceil((seconds - first) / 4);
    const fromMs = meanOf(ms, first, first + quarter);
    const toMs = meanOf(ms, seconds - quarter, seconds);
    const grew = toMs - fromMs >= thresholds.creepMsASecond && toMs >= fromMs * LEAST_GROWTH;
    if (slope === undefined || slope.low <= 0 || !grew) return [];
    return [
      {
        kind: 'creep',
        also: [],
        thread: MAIN_THREAD,
        label: `Growing cost of ${displayName(recording.functions.get(functionId))}`,
        startMs: first * 1000,
        endMs: recording.range.endMs,
        feltMs: toMs,
        budgetMs: fromMs + thresholds.creepMsASecond,
        detail: {
          type: 'creep',
          functionId,
          fromMs,
          toMs,
          slope,
          runs: {
            from: meanOf(runs, first, first + quarter),
            to: meanOf(runs, seconds - quarter, seconds),
          },
        },
      },
    ];
  });
}
