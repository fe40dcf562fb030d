import type { LoadComparison } from '../compare/compare-loads';
import type { ComparedSeries, Verdict } from '../compare/compare-series';
import type { Recording } from '../recording/recording';
import { countedText } from '../words/figures';
import { seriesReport } from './comparison-report';
import { boundWords, changeWords, levelWords, madeWords, verdictWords } from './comparison-words';
import { escapeMarkdown } from './markdown';

/** Grows when a field of a versus run changes its meaning or goes. */
export const VERSUS_VERSION = 1;

/** Fresh loads of two versions in one browser, in turn, and what came of them. */
export interface VersusRun {
  readonly browser: string;
  /** The load of each side whose values lie nearest to the medians of all. */
  readonly typical: { readonly before: Recording; readonly after: Recording };
  readonly comparison: LoadComparison;
  /** Rounds that were wanted at most. */
  readonly planned: number;
  readonly done: number;
  /** Whether loads of both were made in turn, in random order. */
  readonly inTurn: boolean;
}

/** Two addresses that were held against each other, in one browser or several. */
export interface Versus {
  readonly before: string;
  readonly after: string;
  readonly runs: readonly VersusRun[];
  /** What makes the verdicts less firm than fresh loads in turn would, in words. */
  readonly caveats: readonly string[];
}

/** What `nettle-patch versus --json` writes: A is `before`, B is `after`. Times are milliseconds. */
export function versusReport({ before, after, runs, caveats }: Versus): object {
  return {
    version: VERSUS_VERSION,
    a: before,
    b: after,
    caveats,
    browsers: runs.map(({ browser, typical, comparison, planned, done, inTurn }) => ({
      browser,
      made: madeWords(typical.before),
      rounds: { planned, done, endedEarly: done < planned, inTurn },
      level: comparison.level,
      tested: comparison.tested,
      series: seriesReport(comparison.series),
    })),
  };
}

/** What no versus run can know, in words. */
export const VERSUS_UNKNOWN =
  'Measured on one machine, with steps that a script took: other devices, networks and people may find other figures.';

/** The median of the loads of one side: "612 ms, 8 loads". */
export function sideText({ medianMs, medianIsBound, count }: ComparedSeries['before']): string {
  return medianMs === undefined
    ? '–'
    : `${boundWords(medianMs, medianIsBound)}, ${countedText(count, 'load')}`;
}

/** Each thing that was done or went on, in words: what, A, B, verdict, difference. */
export function versusRows(series: readonly ComparedSeries[]): string[][] {
  return series.map((one) => [
    one.label,
    sideText(one.before),
    sideText(one.after),
    verdictWords(one.verdict),
    changeWords(one),
  ]);
}

/** How it was done, and how far the figures can be believed, in one sentence each. */
export function versusWords({ typical, comparison, planned, done, inTurn }: VersusRun): string {
  const { level, tested, series } = comparison;
  const early = done < planned ? `, ended before ${planned} as nothing was left to decide` : '';
  return `${madeWords(typical.before)}: ${countedText(done, 'fresh load')} of each${inTurn ? ', in turn and in random order' : ''}${early}. ${tested} of ${series.length} series had enough loads to be tested, by the rank test of Mann and Whitney over the medians of the loads, at an error rate of ${levelWords(level)} over all together in this look.`;
}

/** A versus run as Markdown, for a change request: readable without the tool. */
export function versusMarkdown({ before, after, runs, caveats }: Versus): string {
  return [
    '### A against B',
    '',
    `A: ${escapeMarkdown(before)}`,
    '',
    `B: ${escapeMarkdown(after)}`,
    '',
    VERSUS_UNKNOWN,
    ...caveats.map((caveat) => `\n> ${escapeMarkdown(caveat)}`),
    ...runs.flatMap((run) => [
      '',
      `**${escapeMarkdown(run.browser)}**: ${escapeMarkdown(versusWords(run))}`,
      '',
      '| what | A | B | B is | |',
      '| --- | ---: | ---: | --- | --- |',
      ...versusRows(run.comparison.series).map(
        (cells) => `| ${cells.map((cell) => escapeMarkdown(cell)).join(' | ')} |`,
      ),
    ]),
    '',
  ].join('\n');
}

const WORSE: readonly Verdict[] = ['slower', 'new'];

/** What became slower from A to B, in any browser. */
export function slowerIn({ runs }: Versus): { readonly browser: string; readonly series: ComparedSeries }[] {
  return runs.flatMap(({ browser, comparison }) =>
    comparison.series.filter(({ verdict }) => WORSE.includes(verdict)).map((series) => ({ browser, series })),
  );
}
