import type { Comparison } from '../compare/compare';
import type { ComparedFunction } from '../compare/compare-functions';
import type { ComparedSeries, SeriesSide } from '../compare/compare-series';
import { percent } from '../blame/sentence';
import type { Recording } from '../recording/recording';
import { changeWords, madeWords, sideWords, verdictWords } from './comparison-words';
import { REPORT_VERSION, reportOf } from './explain-report';
import { roundMs } from './place';

/** What `nettle-patch compare --json` writes. Times are milliseconds. */
export function comparisonReport(before: Recording, after: Recording, comparison: Comparison): object {
  const side = ({ count, medianMs, p75Ms, worstMs }: SeriesSide) => ({
    count,
    medianMs: medianMs ?? null,
    p75Ms: p75Ms ?? null,
    worstMs: worstMs ?? null,
  });
  return {
    version: REPORT_VERSION,
    before: reportOf(before),
    after: reportOf(after),
    warnings: comparison.warnings,
    series: comparison.series.map(({ label, isInteraction, change, verdict, ...sides }) => ({
      label,
      isInteraction,
      before: side(sides.before),
      after: side(sides.after),
      differenceMs: change === undefined ? null : roundMs(change.difference),
      lowMs: change === undefined ? null : roundMs(change.low),
      highMs: change === undefined ? null : roundMs(change.high),
      verdict,
    })),
    functions: comparison.functions.map(({ name, place, owner, change, selfChangeMs, ...sides }) => ({
      name,
      place,
      owner,
      change,
      selfChangeMs: roundMs(selfChangeMs),
      before: functionSide(sides.before),
      after: functionSide(sides.after),
    })),
  };
}

function functionSide(side: ComparedFunction['before']): object | null {
  if (side === undefined) return null;
  const { selfMs, totalMs, count, eachMs } = side;
  return {
    selfMs: roundMs(selfMs),
    totalMs: roundMs(totalMs),
    count,
    eachMs: eachMs === undefined ? null : roundMs(eachMs),
  };
}

/** Names and labels come from the recorded app: nothing in them may be taken for Markdown or HTML. */
function escapeMarkdown(text: string): string {
  return text.replaceAll(/[\\`*_{}[\]<>()#+!|~]/g, '\\$&').replaceAll(/[\r\n]+/g, ' ');
}

function seriesRow(series: ComparedSeries): string {
  const { label, before, after, verdict } = series;
  const change = changeWords(series);
  return `| ${escapeMarkdown(label)} | ${sideWords(before)} | ${sideWords(after)} | **${verdictWords(verdict)}**${change === '' ? '' : ` (${change})`} |`;
}

const MOST_FUNCTIONS = 10;

function functionRow({ name, place, before, after, change }: ComparedFunction): string {
  const self = (side: ComparedFunction['before']) =>
    side === undefined ? '–' : `${side.selfMs.toFixed(1)} ms`;
  const less =
    before === undefined || after === undefined || before.selfMs === 0
      ? ''
      : `, ${percent(after.selfMs / before.selfMs)} of before`;
  return `| ${escapeMarkdown(name)} | ${escapeMarkdown(place)} | ${self(before)} | ${self(after)} | ${change}${change === 'cheaper' ? less : ''} |`;
}

/** A comparison as Markdown, readable by people who have no tool at hand. */
export function comparisonMarkdown(before: Recording, after: Recording, comparison: Comparison): string {
  const { warnings, series, functions } = comparison;
  const changed = functions.filter(({ change }) => change !== 'same').slice(0, MOST_FUNCTIONS);
  return [
    `### ${escapeMarkdown(after.header.title || after.header.target.title)}: before and after`,
    '',
    `Recorded ${before.header.startedAt.slice(0, 10)} (${madeWords(before)}) and ${after.header.startedAt.slice(0, 10)} (${madeWords(after)}). Delays are from the input to the screen, medians.`,
    ...warnings.map((warning) => `\n> ${escapeMarkdown(warning)}`),
    '',
    '| what | before | after | verdict |',
    '| --- | ---: | ---: | --- |',
    ...series.map(seriesRow),
    ...(changed.length === 0
      ? []
      : [
          '',
          '| function | where | self before | self after | |',
          '| --- | --- | ---: | ---: | --- |',
          ...changed.map(functionRow),
        ]),
    '',
  ].join('\n');
}
