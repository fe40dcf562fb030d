import type { Comparison } from '../compare/compare';
import type { ComparedFunction } from '../compare/compare-functions';
import type { ComparedSeries, SeriesSide } from '../compare/compare-series';
import { LEVEL } from '../statistics/level';
import { percent } from '../explanation/sentence';
import type { Recording } from '../recording/recording';
import {
  CHANGE_WORDS,
  UNIT_WORDS,
  changeWords,
  isChange,
  madeWords,
  perUnitWords,
  sideWords,
  testedWords,
  verdictWords,
} from './comparison-words';
import { reportOf } from './explain-report';
import { escapeMarkdown } from './markdown';
import { roundMs } from '../format/microseconds';

/** Grows when a field of a comparison changes its meaning or goes. */
export const COMPARISON_VERSION = 2;

/** Series of a comparison as JSON. Times are milliseconds. */
export function seriesReport(all: readonly ComparedSeries[]): object[] {
  const side = ({ count, delays, medianMs, medianIsBound, p75Ms, worstMs }: SeriesSide) => ({
    count,
    bounds: delays.filter(({ isBound }) => isBound).length,
    medianMs: medianMs ?? null,
    medianIsBound,
    p75Ms: p75Ms ?? null,
    worstMs: worstMs ?? null,
  });
  return all.map(({ label, isInteraction, change, chance, missing, stepMs, verdict, ...sides }) => ({
    label,
    isInteraction,
    before: side(sides.before),
    after: side(sides.after),
    differenceMs: change === undefined ? null : roundMs(change.difference),
    lowMs: change === undefined ? null : roundMs(change.low),
    highMs: change === undefined ? null : roundMs(change.high),
    differenceIsBound: change?.isBound ?? false,
    chance: chance ?? null,
    missing,
    stepMs,
    verdict,
  }));
}

/** What `nettle-patch compare --json` writes. Times are milliseconds. */
export function comparisonReport(before: Recording, after: Recording, comparison: Comparison): object {
  return {
    version: COMPARISON_VERSION,
    before: reportOf(before),
    after: reportOf(after),
    warnings: comparison.warnings,
    caveats: comparison.caveats,
    tested: comparison.tested,
    level: LEVEL,
    series: seriesReport(comparison.series),
    functions: comparison.functions.map(
      ({ name, place, owner, unit, change, perUnitChangeMs, ...sides }) => ({
        name,
        place,
        owner,
        unit,
        change,
        perUnitChangeMs: roundMs(perUnitChangeMs),
        before: functionSide(sides.before),
        after: functionSide(sides.after),
      }),
    ),
  };
}

function functionSide(side: ComparedFunction['before']): object | null {
  if (side === undefined) return null;
  const { selfMs, totalMs, count, eachMs, perUnitMs, errorMs } = side;
  return {
    perUnitMs: roundMs(perUnitMs),
    errorMs: roundMs(errorMs),
    selfMs: roundMs(selfMs),
    totalMs: roundMs(totalMs),
    count,
    eachMs: eachMs === undefined ? null : roundMs(eachMs),
  };
}

function seriesRow(series: ComparedSeries): string {
  const { label, before, after, verdict } = series;
  const change = changeWords(series);
  return `| ${escapeMarkdown(label)} | ${sideWords(before)} | ${sideWords(after)} | **${verdictWords(verdict)}**${change === '' ? '' : ` (${change})`} |`;
}

const MAX_FUNCTIONS = 10;

function functionRow({ name, place, unit, before, after, change }: ComparedFunction): string {
  const less =
    before === undefined || after === undefined || before.perUnitMs === 0
      ? ''
      : `, ${percent(after.perUnitMs / before.perUnitMs)} of before`;
  return `| ${escapeMarkdown(name)} | ${escapeMarkdown(place)} | ${perUnitWords(before)} | ${perUnitWords(after)} | ${UNIT_WORDS[unit]} | ${CHANGE_WORDS[change]}${change === 'cheaper' ? less : ''} |`;
}

/** A comparison as Markdown, readable by people who have no tool at hand. */
export function comparisonMarkdown(before: Recording, after: Recording, comparison: Comparison): string {
  const { warnings, caveats, series, functions } = comparison;
  const changed = functions.filter(({ change }) => isChange(change)).slice(0, MAX_FUNCTIONS);
  return [
    `### ${escapeMarkdown(after.header.title || after.header.target.title)}: before and after`,
    '',
    `Recorded ${before.header.startedAt.slice(0, 10)} (${madeWords(before)}) and ${after.header.startedAt.slice(0, 10)} (${madeWords(after)}). Delays are from the input to the screen, medians. ${testedWords(comparison)}`,
    ...caveats.map((caveat) => `\n${escapeMarkdown(caveat)}`),
    ...warnings.map((warning) => `\n> ${escapeMarkdown(warning)}`),
    '',
    '| what | before | after | verdict |',
    '| --- | ---: | ---: | --- |',
    ...series.map(seriesRow),
    ...(changed.length === 0
      ? []
      : [
          '',
          '| function | where | own time before | own time after | per | |',
          '| --- | --- | ---: | ---: | --- | --- |',
          ...changed.map(functionRow),
        ]),
    '',
  ].join('\n');
}
