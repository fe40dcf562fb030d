import { decimalText } from '../words/figures';
import {
  agreementWords,
  memoryWords,
  pairWords,
  problemWords,
  runText,
  shortRunWords,
  trialHowWords,
} from '../trials/trial-words';
import type { Trial } from '../trials/trial';
import { doResultsDiffer, givenBy, type TrialResult } from '../trials/trial-result';
import { escapeMarkdown } from './markdown';
import type { TestCase } from './junit';

/** Grows when a field of a report of a trial changes its meaning or goes. */
export const TRIAL_REPORT_VERSION = 1;

/** A trial that was run somewhere. */
export interface TrialRun {
  /** What it ran in, for people. */
  readonly where: string;
  readonly result: TrialResult;
  /** How many times slower than usual that was, as measured; absent where it was not slowed. */
  readonly speed?: number;
}

/** What no trial can know, in words. */
export const TRIAL_UNKNOWN =
  'Measured on one machine, with code that ran warm and by itself: in the app, cold or beside other work, it may take longer, and so may other inputs.';

/** What `nettle-patch trial --json` writes. Times are milliseconds, shares are of one. */
export function trialReport({ name, place }: Trial, runs: readonly TrialRun[]): object {
  return {
    version: TRIAL_REPORT_VERSION,
    name,
    place,
    runs: runs.map(({ where, result, speed }) => ({
      where,
      engine: result.engine,
      ...(speed === undefined ? {} : { speed }),
      starts: result.starts,
      ended: result.ended,
      level: result.level,
      clockStepMs: result.clockStepMs,
      alternatives: result.alternatives.map(({ runMs, ...one }) => ({ ...one, startsMs: runMs })),
      pairs: result.pairs,
    })),
  };
}

const p = (sorted: readonly number[], share: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;

/** "0.82 to 0.91 µs": where the middle half of the starts lie. */
function rangeWords(runMs: readonly number[]): string {
  if (runMs.length === 0) return '';
  const sorted = [...runMs].sort((a, b) => a - b);
  return `${runText(p(sorted, 0.25))} to ${runText(p(sorted, 0.75))}`;
}

/** A head and each alternative, in words: name, a run, the middle half of the starts, memory a run. */
export function trialRows({ alternatives }: TrialResult): string[][] {
  return [
    ['', 'a run', 'middle half of the starts', 'memory a run'],
    ...alternatives.map((one) => [
      one.name,
      one.medianMs === undefined ? 'not timed' : runText(one.medianMs),
      rangeWords(one.runMs),
      one.medianMs === undefined ? '' : memoryWords(one),
    ]),
  ];
}

/** What came of it, in sentences: what went wrong, whether results agree, and each pair. */
export function trialSentences(trial: Trial, { alternatives, pairs }: TrialResult): string[] {
  const names = alternatives.map(({ name }) => name);
  const problems = alternatives.flatMap(({ problem }, at) =>
    problem === undefined ? [] : [problemWords(trial, at, problem)],
  );
  return [
    // What comes before all of them fails in each.
    ...new Set(problems),
    agreementWords(alternatives),
    ...pairs.map((pair) => pairWords(names, pair)),
    shortRunWords(alternatives),
  ].filter((words) => words !== '');
}

/** Where it ran, in which engine, and how slow that was. */
export function whereWords({ where, speed, result }: TrialRun): string {
  const slow = speed === undefined ? '' : `, measured ${decimalText(speed, 1)} × slower`;
  return `${where} (${result.engine})${slow}`;
}

function fenced(code: string): string[] {
  const longest = Math.max(2, ...[...code.matchAll(/`+/g)].map(([ticks]) => ticks.length));
  const fence = '`'.repeat(longest + 1);
  return [`${fence}js`, code, fence];
}

/** A trial as Markdown, for a change request: readable without the tool. */
export function trialMarkdown(trial: Trial, runs: readonly TrialRun[]): string {
  const row = (cells: readonly string[]) => `| ${cells.map((cell) => escapeMarkdown(cell)).join(' | ')} |`;
  return [
    `### ${escapeMarkdown(trial.name)}`,
    '',
    TRIAL_UNKNOWN,
    ...runs.flatMap((run) => {
      const [head, ...rows] = trialRows(run.result);
      return [
        '',
        `**${escapeMarkdown(whereWords(run))}**`,
        '',
        row(head!),
        '| --- | ---: | ---: | ---: |',
        ...rows.map(row),
        '',
        ...trialSentences(trial, run.result).map((words) => `- ${escapeMarkdown(words)}`),
        '',
        escapeMarkdown(trialHowWords(run.result)),
      ];
    }),
    '',
    '<details><summary>Code</summary>',
    '',
    ...(trial.setUp.trim() === '' ? [] : ['Set-up:', '', ...fenced(trial.setUp), '']),
    ...trial.alternatives.flatMap(({ name, code }) => [`${escapeMarkdown(name)}:`, '', ...fenced(code), '']),
    '</details>',
    '',
  ].join('\n');
}

/** Whether each alternative ran, and whether all agree, as tests. */
export function trialCases(trial: Trial, runs: readonly TrialRun[]): TestCase[] {
  return runs.flatMap(({ where, result }) => [
    ...result.alternatives.map(({ name, problem, medianMs }, at): TestCase => {
      const test = { name: `${name}, in ${where}`, tookMs: medianMs ?? 0 };
      return problem === undefined
        ? { ...test, outcome: 'passed' }
        : { ...test, outcome: 'failed', message: problemWords(trial, at, problem) };
    }),
    agreementCase(where, result),
  ]);
}

function agreementCase(where: string, { alternatives }: TrialResult): TestCase {
  const name = `results agree, in ${where}`;
  const message = agreementWords(alternatives);
  const given = givenBy(alternatives);
  if (doResultsDiffer(alternatives)) return { name, outcome: 'failed', message };
  const isKnown = given.length > 1 && given.every(({ isComparable }) => isComparable);
  return isKnown ? { name, outcome: 'passed' } : { name, outcome: 'skipped', message };
}
