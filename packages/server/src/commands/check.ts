import { budgetSchema, checkBudget, type Budget, type Recording } from '@nettle-patch/core';
import type { Output } from './output';
import { readJson } from './read-json';

/** @throws FileError naming the field that does not fit */
export async function readBudget(path: string): Promise<Budget> {
  return readJson(path, (given) => {
    budgetSchema.validateSync(given, { strict: true, abortEarly: false });
    return budgetSchema.cast(given);
  });
}

/** Writes how a recording keeps its budget. @returns whether it does, as far as is known */
export function writeCheck(output: Output, recording: Recording, budget: Budget, asJson: boolean): boolean {
  const results = checkBudget(recording, budget);
  const kept = results.every((result) => result.kept !== false);
  if (asJson) {
    output.line(JSON.stringify({ version: 1, kept, results }, null, 2));
    return kept;
  }
  const figure = (value: number) => (Number.isInteger(value) ? value.toLocaleString('en') : value.toFixed(2));
  for (const { what, found, allowed, unit, isBound, kept: isKept } of results) {
    const words = `${what}: ${isBound ? 'below ' : ''}${figure(found)} ${unit}, allowed ${figure(allowed)}`;
    if (isKept === false) output.line(output.style('red', `exceeded  ${words}`));
    else output.line(isKept ? `kept      ${words}` : `not known ${words}`);
  }
  if (results.length === 0) output.line('Nothing in the recording falls under this budget.');
  return kept;
}
