import { compareSeries } from '../compare/compare-series';
import type { Row } from '../format/rows';
import { seededRandom } from '../statistics/random';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { deskHeader, recordingOf } from './arbitrary-recording';

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

/** Compares recordings that are drawn from the same distribution, but for the first series where a factor is given. */
export function verdictRates({
  repeats,
  series,
  comparisons,
  factor,
  seed,
  drift = 0,
}: VerdictTrial): VerdictRates {
  const random = seededRandom(seed);
  const middles = Array.from({ length: series }, (_, at) => 80 + 40 * (at % 9));
  let [anyFalse, found] = [0, 0];
  for (let trial = 0; trial < comparisons; trial++) {
    const side = (by: number) => {
      const load = drift === 0 ? 1 : Math.exp(drift * normal(random));
      const rows = taps(
        middles.map((middleMs, at) => delays(random, middleMs * load, repeats, at === 0 ? by : 1)),
      );
      return recordingOf(rows, deskHeader());
    };
    const compared = compareSeries(side(1), side(factor), DEFAULT_THRESHOLDS);
    const decided = compared.filter(({ verdict }) => verdict === 'faster' || verdict === 'slower');
    const isFirst = ({ label }: { label: string }) => label.endsWith('“Lane 1”');
    if (decided.some((one) => factor === 1 || !isFirst(one))) anyFalse++;
    if (decided.some((one) => isFirst(one) && one.verdict === (factor < 1 ? 'faster' : 'slower'))) found++;
  }
  return { anyFalse: anyFalse / comparisons, found: found / comparisons };
}
