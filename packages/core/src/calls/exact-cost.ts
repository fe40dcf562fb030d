import { roundText } from '../words/figures';
import { JUDGED_BY, QUICK_READINGS, TIMED_EVERY } from '../instrumentation/quick-calls';
import type { Recording } from '../recording/recording';
import { functionTable } from './function-table';
import { WIDE_LENS } from './lens';

/** Readings of the clock for one exact call: at its beginning and at its end. */
const READINGS_A_CALL = 2;

/** What exact calls would cost on the main thread, by what fine mode counted. */
export interface ExactCost {
  /** How many times as long script would take: the readings of the clock are counted, all else that recording does is not. */
  readonly factor: number;
  /** Calls that would be timed, and those of functions too quick for that, which would be counted. */
  readonly timed: number;
  readonly counted: number;
}

/** The same in words. */
export function exactCostWords(factor: number): string {
  return `With exact calls, script here would take at least × ${roundText(factor)} as long, by the calls that were counted.`;
}

/** Calls of a function that would be timed. @param meanMs what one takes, with all it calls */
function timedCalls(calls: number, meanMs: number, quickMs: number): number {
  return meanMs >= quickMs || calls <= JUDGED_BY ? calls : JUDGED_BY + (calls - JUDGED_BY) / TIMED_EVERY;
}

/**
 * What it would cost to record the same with exact calls.
 * @returns undefined where it cannot be told: unless calls were counted, and it is known what the clock costs there
 */
export function exactCost(recording: Recording): ExactCost | undefined {
  const { clockReadMs, fine } = recording.header;
  if (fine !== true || clockReadMs === undefined) return undefined;
  let [scriptMs, timed, calls] = [0, 0, 0];
  for (const { functionId, selfMs, counted, totalMs } of functionTable(recording, WIDE_LENS)) {
    if (recording.functions.get(functionId)?.activity === undefined) scriptMs += selfMs;
    if (counted === 0) continue;
    calls += counted;
    timed += timedCalls(counted, totalMs / counted, QUICK_READINGS * clockReadMs);
  }
  if (scriptMs === 0) return undefined;
  timed = Math.round(timed);
  const factor = 1 + (timed * READINGS_A_CALL * clockReadMs) / scriptMs;
  return { factor, timed, counted: calls - timed };
}
