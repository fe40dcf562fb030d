import type { SeveralComparison, SeveralSeries } from '../compare/compare-several';
import type { SeriesSide } from '../compare/compare-series';
import { LEVEL } from '../statistics/level';
import type { SeveralFunction } from '../compare/several-functions';
import type { Standing } from '../compare/standings';
import { roundMs } from '../format/microseconds';
import type { Recording } from '../recording/recording';
import { UNIT_WORDS, boundWords, levelWords, madeWords, perUnitWords } from './comparison-words';
import { escapeXml } from './escape-xml';
import { reportOf } from './explain-report';
import { htmlPage, table, type Cell } from './html-page';
import { escapeMarkdown } from './markdown';

/** Grows when a field of a comparison of several changes its meaning or goes. */
export const SEVERAL_VERSION = 1;

const MAX_FUNCTIONS = 20;

const STANDING_WORDS = { best: 'quickest', worst: 'slowest' } as const;

export function standingWords(standing: Standing): string {
  return standing === undefined ? '' : STANDING_WORDS[standing];
}

/** "612 ms, 540 to 700, × 5": median, spread and number of what one recording has of a series. */
export function spreadWords({ count, delays, medianMs, medianIsBound }: SeriesSide): string {
  if (medianMs === undefined) return '–';
  const middle = boundWords(medianMs, medianIsBound);
  const values = delays.map(({ ms }) => Math.round(ms));
  return count === 1 ? middle : `${middle}, ${Math.min(...values)} to ${Math.max(...values)}, × ${count}`;
}

/** What a recording among several is called: its title, or else how it was made. */
export function severalTitle(recording: Recording): string {
  return recording.header.title || recording.header.target.title || madeWords(recording);
}

/** How firm it is, and what it leaves open, in words. */
export function severalTestWords({ tested, needed, series }: SeveralComparison): string {
  const few =
    tested > 0 && series.some(({ sides }) => sides.some(({ count }) => count > 0 && count < needed))
      ? ` With so many pairs, fewer than ${needed} runs of each can seldom decide anything.`
      : '';
  return `${tested} pairs in ${series.length} series had enough runs to be tested, by the rank test of Mann and Whitney at an error rate of ${levelWords(LEVEL)} over all together. Quickest is only what is firmly quicker than another and slower than none, slowest the reverse.${few} Each recording has the luck of its own load of the page.`;
}

function marked(words: string, standing: Standing): string {
  return standing === undefined ? words : `${words} (${STANDING_WORDS[standing]})`;
}

function seriesCells({ sides, standings }: SeveralSeries): string[] {
  return sides.map((side, at) => marked(spreadWords(side), standings[at]));
}

function functionCells({ sides, standings }: SeveralFunction): string[] {
  return sides.map((side, at) => marked(perUnitWords(side), standings[at]));
}

/** Series of several recordings as rows of words: what, and each recording. */
export function severalRows({ series }: SeveralComparison): string[][] {
  return series.map((one) => [one.label, ...seriesCells(one)]);
}

/** Functions whose cost differs, as rows of words: function, where, per what, and each recording. */
export function severalFunctionRows({ functions }: SeveralComparison): string[][] {
  return functions
    .filter(({ standings }) => standings.some((standing) => standing !== undefined))
    .slice(0, MAX_FUNCTIONS)
    .map((one) => [one.name, one.place, UNIT_WORDS[one.unit], ...functionCells(one)]);
}

/** What `nettle-patch compare A B C --json` writes. Times are milliseconds. */
export function severalReport(recordings: readonly Recording[], comparison: SeveralComparison): object {
  const { warnings, tested, needed, series, functions } = comparison;
  return {
    version: SEVERAL_VERSION,
    recordings: recordings.map(reportOf),
    warnings,
    tested,
    needed,
    level: LEVEL,
    series: series.map(({ label, isInteraction, sides, standings, stepMs }) => ({
      label,
      isInteraction,
      stepMs,
      recordings: sides.map(({ count, medianMs, medianIsBound, p75Ms, worstMs, delays }, at) => ({
        count,
        medianMs: medianMs ?? null,
        medianIsBound,
        leastMs: count === 0 ? null : Math.min(...delays.map(({ ms }) => ms)),
        p75Ms: p75Ms ?? null,
        worstMs: worstMs ?? null,
        standing: standings[at] ?? null,
      })),
    })),
    functions: functions.map(({ name, place, owner, unit, sides, standings }) => ({
      name,
      place,
      owner,
      unit,
      recordings: sides.map((side, at) =>
        side === undefined
          ? null
          : {
              perUnitMs: roundMs(side.perUnitMs),
              errorMs: roundMs(side.errorMs),
              count: side.count,
              standing: standings[at] ?? null,
            },
      ),
    })),
  };
}

function markdownTable(head: readonly string[], rows: readonly (readonly string[])[]): string[] {
  const line = (cells: readonly string[]) => `| ${cells.map(escapeMarkdown).join(' | ')} |`;
  return [line(head), `| ${head.map(() => '---').join(' | ')} |`, ...rows.map(line)];
}

/** Several recordings as Markdown, readable by people who have no tool at hand. */
export function severalMarkdown(recordings: readonly Recording[], comparison: SeveralComparison): string {
  const numbers = recordings.map((_, at) => String(at + 1));
  const functions = severalFunctionRows(comparison);
  return [
    `### ${recordings.length} recordings`,
    '',
    ...recordings.map(
      (one, at) =>
        `${at + 1}. ${escapeMarkdown(severalTitle(one))}: ${escapeMarkdown(madeWords(one))}, ${one.header.startedAt.slice(0, 10)}`,
    ),
    '',
    escapeMarkdown(severalTestWords(comparison)),
    ...comparison.warnings.map((warning) => `\n> ${escapeMarkdown(warning)}`),
    '',
    ...markdownTable(['what', ...numbers], severalRows(comparison)),
    ...(functions.length === 0
      ? []
      : ['', ...markdownTable(['function', 'where', 'own time per', ...numbers], functions)]),
    '',
  ].join('\n');
}

/** Several recordings as one HTML page that refers to nothing outside of itself and runs no script. */
export function severalPage(recordings: readonly Recording[], comparison: SeveralComparison): string {
  const numbers = recordings.map((_, at) => String(at + 1));
  const cell = (words: string): Cell => [words, words.endsWith('(slowest)') ? 'w' : undefined];
  const functions = severalFunctionRows(comparison);
  return htmlPage(`${recordings.length} recordings`, [
    '<ol>',
    ...recordings.map(
      (one) =>
        `<li>${escapeXml(severalTitle(one))}: ${escapeXml(madeWords(one))}, ${one.header.startedAt.slice(0, 10)}</li>`,
    ),
    '</ol>',
    `<p class="s">${escapeXml(severalTestWords(comparison))}</p>`,
    ...comparison.warnings.map((warning) => `<p class="w">${escapeXml(warning)}</p>`),
    table(
      ['what', ...numbers],
      severalRows(comparison).map((row) => row.map(cell)),
    ),
    ...(functions.length === 0
      ? []
      : [
          '<h2>Functions whose own time differs</h2>',
          table(
            ['function', 'where', 'per', ...numbers],
            functions.map((row) => row.map(cell)),
          ),
        ]),
  ]);
}
