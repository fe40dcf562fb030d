import { compareLoads } from '../compare/compare-loads';
import { compareSeries, type ComparedSeries } from '../compare/compare-series';
import { isOpen, planLooks } from '../compare/looks';
import type { Row } from '../format/rows';
import type { Recording } from '../recording/recording';
import { seededRandom } from '../statistics/random';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { deskHeader, recordingOf } from './arbitrary-recording';
import { deskFunctions, deskRun, end } from './desk-rows';

/** How many comparisons are drawn, and of what. */
export interface VerdictTrial {
  readonly repeats: number;
  readonly series: number;
  readonly comparisons: number;
  /** What the delays of the first series are multiplied by after the change; 1 where nothing changes. */
  readonly factor: number;
  readonly seed: number;
  /** How much loads of one page differ from each other: standard deviation of the logarithm; 0 when absent. */
  readonly drift?: number;
}

/** Shares of comparisons, 0 to 1. */
export interface VerdictRates {
  /** With any verdict of faster or slower on a series that did not change. */
  readonly anyFalse: number;
  /** In which the series that did change was told so, the right way. */
  readonly found: number;
}

const OUTLIER_SHARE = 0.05;
const OUTLIER_FACTOR = 4;
const EVENT_STEP_MS = 8;

function normal(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

/** Delays as a browser tells them: log-normal, some of them outliers, in steps of 8 ms. */
function delays(random: () => number, middleMs: number, count: number, factor: number): number[] {
  return Array.from({ length: count }, () => {
    const outlier = random() < OUTLIER_SHARE ? OUTLIER_FACTOR : 1;
    const ms = middleMs * factor * outlier * Math.exp(0.3 * normal(random));
    return Math.max(EVENT_STEP_MS * 2, Math.round(ms / EVENT_STEP_MS) * EVENT_STEP_MS);
  });
}

function taps(series: readonly (readonly number[])[]): Row[] {
  let interaction = 0;
  return series.flatMap((values, at) =>
    values.map((durationMs, run): Row => {
      const startMs = (run * series.length + at) * 3000;
      return {
        kind: 'input',
        thread: 0,
        startMs,
        durationMs,
        type: 'click',
        interaction: ++interaction,
        target: `button “Lane ${at + 1}”`,
        processingStartMs: startMs + 1,
        processingEndMs: startMs + 2,
      };
    }),
  );
}

/**
 * Draws loads of one page.
 * @returns makes one, in which the first series takes so many times as long
 */
function loadsOf(
  { repeats, series, drift }: Pick<VerdictTrial, 'repeats' | 'series'> & { drift: number },
  random: () => number,
): (factor: number) => Recording {
  const middles = Array.from({ length: series }, (_, at) => 80 + 40 * (at % 9));
  return (factor) => {
    const load = drift === 0 ? 1 : Math.exp(drift * normal(random));
    const rows = taps(
      middles.map((middleMs, at) => delays(random, middleMs * load, repeats, at === 0 ? factor : 1)),
    );
    return recordingOf(rows, deskHeader());
  };
}

/** Compares recordings that are drawn from the same distribution, but for the first series where a factor is given. */
export function verdictRates({
  repeats,
  series,
  comparisons,
  factor,
  seed,
  drift = 0,
}: VerdictTrial): VerdictRates {
  const load = loadsOf({ repeats, series, drift }, seededRandom(seed));
  let [anyFalse, found] = [0, 0];
  for (let trial = 0; trial < comparisons; trial++) {
    const told = toldBy(compareSeries(load(1), load(factor), DEFAULT_THRESHOLDS), factor);
    anyFalse += Number(told.anyFalse);
    found += Number(told.found);
  }
  return { anyFalse: anyFalse / comparisons, found: found / comparisons };
}

/** Whether a comparison tells of a change where there is none, and of that of the first series where there is one. */
function toldBy(compared: readonly ComparedSeries[], factor: number): { anyFalse: boolean; found: boolean } {
  const decided = compared.filter(({ verdict }) => verdict === 'faster' || verdict === 'slower');
  const isFirst = ({ label }: { label: string }) => label.endsWith('“Lane 1”');
  return {
    anyFalse: decided.some((one) => factor === 1 || !isFirst(one)),
    found: decided.some((one) => isFirst(one) && one.verdict === (factor < 1 ? 'faster' : 'slower')),
  };
}

/** Loads of which each holds, by chance, some of what goes on in the background, on both sides as often. */
export interface PresenceTrial extends Pick<VerdictTrial, 'series' | 'comparisons' | 'seed'> {
  /** Of each side. */
  readonly loads: number;
  /** In which share of loads each is seen, 0 to 1. */
  readonly seen: number;
}

/** How often anything is told of what goes on in the background where nothing changed: share of comparisons, 0 to 1. */
export function backgroundFalseRate({ loads, seen, series, comparisons, seed }: PresenceTrial): number {
  const random = seededRandom(seed);
  const names = Array.from({ length: series }, (_, at) => `poll${at + 1}`);
  const load = () => {
    const runs = names.flatMap((_, at) =>
      random() < seen ? [deskRun(1000 * (at + 1), 60 + 60 * Math.exp(0.3 * normal(random)), at)] : [],
    );
    return recordingOf([...deskFunctions(...names), ...runs, end(1000 * (series + 2))]);
  };
  let told = 0;
  for (let comparison = 0; comparison < comparisons; comparison++) {
    const side = () => Array.from({ length: loads }, load);
    const verdicts = compareLoads(side(), side(), DEFAULT_THRESHOLDS).series.map(({ verdict }) => verdict);
    told += Number(verdicts.some((verdict) => !['no-clear-change', 'too-few-to-say'].includes(verdict)));
  }
  return told / comparisons;
}

/** Versus runs of as many rounds at most, in each load of which each thing is done `repeats` times. */
export interface VersusTrial extends VerdictTrial {
  readonly rounds: number;
}

export interface VersusRates extends VerdictRates {
  /** Rounds that were made on average. */
  readonly rounds: number;
}

/** Holds loads against each other as a versus run does, with its looks and its early end. */
export function versusRates(trial: VersusTrial): VersusRates {
  const { repeats, series, comparisons, factor, seed, drift = 0, rounds } = trial;
  const load = loadsOf({ repeats, series, drift }, seededRandom(seed));
  const looks = planLooks(rounds);
  let [anyFalse, found, made] = [0, 0, 0];
  for (let at = 0; at < comparisons; at++) {
    const loads = (by: number) => Array.from({ length: rounds }, () => load(by));
    const [before, after] = [loads(1), loads(factor)];
    let compared: readonly ComparedSeries[] = [];
    for (const { rounds: done, level } of looks) {
      const sides = [before.slice(0, done), after.slice(0, done)] as const;
      compared = compareLoads(...sides, DEFAULT_THRESHOLDS, level).series;
      if (isOpen(compared) && done !== rounds) continue;
      made += done;
      break;
    }
    const told = toldBy(compared, factor);
    anyFalse += Number(told.anyFalse);
    found += Number(told.found);
  }
  return { anyFalse: anyFalse / comparisons, found: found / comparisons, rounds: made / comparisons };
}
