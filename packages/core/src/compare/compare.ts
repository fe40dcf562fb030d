import { decimalText } from '../words/figures';
import { modeWordsOf, type Header } from '../format/header';
import type { Recording } from '../recording/recording';
import { DEFAULT_THRESHOLDS, type Thresholds } from '../format/thresholds';
import { compareFunctions, type ComparedFunction } from './compare-functions';
import { compareSeries, testedOf, type ComparedSeries } from './compare-series';

/** How two recordings differ: first of all in how they were made. */
export interface Comparison {
  /** What makes the figures hard to compare, in words; to be read before any of them. */
  readonly warnings: readonly string[];
  /** What the comparison cannot know, in words. */
  readonly caveats: readonly string[];
  /** How many series had enough values to be tested. */
  readonly tested: number;
  readonly series: readonly ComparedSeries[];
  readonly functions: readonly ComparedFunction[];
}

/** Repeats in one recording share the luck of one load of the page. */
const ONE_LOAD =
  'One recording stands against one: what differs from load to load of the page is not controlled for.';

/** Something about how a recording was made that its figures depend on. */
interface Circumstance {
  readonly what: string;
  words(header: Header): string;
  isSame?(a: Header, b: Header): boolean;
}

/** Speeds are measured to about as much: two of the same device may differ by it. */
const SPEED_NOISE = 0.15;

const CIRCUMSTANCES: readonly Circumstance[] = [
  { what: 'device', words: ({ target }) => target.device },
  { what: 'engine', words: ({ target }) => target.engine },
  { what: 'mode', words: modeWordsOf },
  {
    what: 'display interval',
    words: ({ refreshMs }) => `${decimalText(refreshMs, 1)} ms`,
    isSame: (a, b) => Math.abs(a.refreshMs - b.refreshMs) < 1,
  },
  {
    what: 'speed',
    words: ({ speed }) =>
      speed === undefined
        ? 'not measured'
        : `${decimalText(speed, 1)} × slower than the computer of the tool`,
    isSame: ({ speed: a }, { speed: b }) =>
      a === undefined || b === undefined ? a === b : Math.abs(a - b) <= SPEED_NOISE * Math.max(a, b),
  },
];

/**
 * What makes recordings hard to compare, in words.
 * @param headers of two recordings or more
 * @param names where each stands: "before", "in 2"
 */
export function warningsOf(headers: readonly Header[], names: readonly string[]): string[] {
  return CIRCUMSTANCES.filter(({ words, isSame }) =>
    headers.some((one) => !(isSame?.(headers[0]!, one) ?? words(headers[0]!) === words(one))),
  ).map(({ what, words }) => {
    const all = headers.map((one, at) => `${words(one)} ${names[at]}`);
    return `The ${what} differs: ${all.join(', ')}.`;
  });
}

/** Compares two recordings of the same app, before a change and after it. */
export function compareRecordings(
  before: Recording,
  after: Recording,
  thresholds: Thresholds = DEFAULT_THRESHOLDS,
): Comparison {
  const series = compareSeries(before, after, thresholds);
  return {
    warnings: warningsOf([before.header, after.header], ['before', 'after']),
    caveats: [ONE_LOAD],
    tested: testedOf(series),
    series,
    functions: compareFunctions(before, after),
  };
}
