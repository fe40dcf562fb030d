import {
  budgetMarkdown,
  budgetSchema,
  budgetWords,
  keptWords,
  type Budget,
  type BudgetResult,
  type Recording,
} from '@nettle-patch/core';
import type { Output } from './output';
import { readJson } from './read-json';

/** @throws FileError naming the field that does not fit */
export async function readBudget(path: string): Promise<Budget> {
  return readJson(path, (given) => {
    budgetSchema.validateSync(given, { strict: true, abortEarly: false });
    return budgetSchema.cast(given);
  });
}

/** Writes how recordings keep a budget. @returns whether it does, as far as is known */
export function writeCheck(
  output: Output,
  recordings: readonly Recording[],
  results: readonly BudgetResult[],
  as: 'text' | 'markdown' | 'json',
): boolean {
  const kept = results.every((result) => result.kept !== false);
  if (as === 'json') {
    output.json({ version: 1, kept, results });
    return kept;
  }
  if (as === 'markdown') {
    output.data(budgetMarkdown(recordings, results));
    return kept;
  }
  for (const result of results) {
    const line = `${keptWords(result).padEnd(9)} ${result.what}: ${budgetWords(result)}`;
    output.line(result.kept === false ? output.style('red', line) : line);
  }
  if (results.length === 0) output.line('Nothing in the recording falls under this budget.');
  return kept;
}
