import { budgetText, feltText } from '../stings/felt-text';
import { decimalText } from '../words/figures';
import type { Recording } from '../recording/recording';
import type { Thresholds } from '../format/thresholds';
import type { BudgetResult } from './budget';
import { budgetWords, keptWords } from './budget-words';
import { madeWords } from './comparison-words';
import { explainReport } from './explain-report';
import { interactionsOf } from '../inputs/interactions';

/** Names and labels come from the recorded app: nothing in them may be taken for Markdown or HTML. */
export function escapeMarkdown(text: string): string {
  return text.replaceAll(/[\\`*_{}[\]<>()#+!|~]/g, '\\$&').replaceAll(/[\r\n]+/g, ' ');
}

const MAX_STINGS = 5;

function titleOf({ header }: Recording): string {
  return escapeMarkdown(header.title || header.target.title || header.target.url);
}

function beyondWords(count: number): string {
  if (count === 0) return 'Nothing went beyond its budget.';
  return count === 1 ? 'One thing went beyond its budget.' : `${count} things went beyond their budgets.`;
}

/** A recording in short, as Markdown: how it was made, and what went beyond its budget most. */
export function recordingMarkdown(recording: Recording, thresholds: Thresholds): string {
  const { stings } = explainReport(recording, thresholds);
  const inputs = interactionsOf(recording).length;
  const seconds = decimalText((recording.range.endMs - recording.range.startMs) / 1000, 1);
  const more = stings.length > MAX_STINGS ? [`\n${stings.length - MAX_STINGS} more.`] : [];
  return [
    `### ${titleOf(recording)}`,
    '',
    `${madeWords(recording)}; ${seconds} s with ${inputs === 1 ? 'one input' : `${inputs} inputs`}. ${beyondWords(stings.length)}`,
    ...(stings.length === 0 ? [] : ['', '| what | took | budget | why |', '| --- | ---: | ---: | --- |']),
    ...stings
      .slice(0, MAX_STINGS)
      .map(
        (sting) =>
          `| ${escapeMarkdown(sting.label)} | ${feltText(sting)} | ${budgetText(sting)} | ${escapeMarkdown(sting.because)} |`,
      ),
    ...more,
    '',
  ].join('\n');
}

/** How recordings keep a budget, as Markdown. */
export function budgetMarkdown(
  [recording, ...others]: readonly Recording[],
  results: readonly BudgetResult[],
): string {
  const exceeded = results.filter(({ kept }) => kept === false).length;
  return [
    `### ${titleOf(recording!)}${others.length === 0 ? '' : ` and ${others.length} more`}: ${exceeded === 0 ? 'the budget is kept' : 'the budget is exceeded'}`,
    '',
    `${madeWords(recording!)}; ${results.length} figures held against it, ${exceeded} beyond.`,
    '',
    '| what | found and allowed | |',
    '| --- | --- | --- |',
    ...results.map(
      (result) =>
        `| ${escapeMarkdown(result.what)} | ${budgetWords(result)} | ${result.kept === false ? '**exceeded**' : keptWords(result)} |`,
    ),
    '',
  ].join('\n');
}
