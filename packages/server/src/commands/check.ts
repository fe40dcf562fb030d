import { readFile } from 'node:fs/promises';
import { budgetSchema, checkBudget, type Budget, type Recording } from '@nettle-patch/core';
import { ValidationError } from 'yup';
import type { Output } from './output';
import { FileError } from './read-recording';

/** @throws FileError naming the field that does not fit */
export async function readBudget(path: string): Promise<Budget> {
  let text: string;
  try {
    text = await readFile(path, 'utf8');
  } catch (error) {
    throw new FileError(`${path} could not be read: ${(error as Error).message}`);
  }
  try {
    const given: unknown = JSON.parse(text);
    budgetSchema.validateSync(given, { strict: true, abortEarly: false });
    return budgetSchema.cast(given);
  } catch (error) {
    if (error instanceof SyntaxError) throw new FileError(`${path} is no JSON: ${error.message}`);
    if (error instanceof ValidationError) throw new FileError(`${path}: ${error.errors.join('; ')}`);
    throw error;
  }
}

/** Writes how a recording keeps its budget. @returns whether it does */
export function writeCheck(output: Output, recording: Recording, budget: Budget, asJson: boolean): boolean {
  const results = checkBudget(recording, budget);
  const kept = results.every((result) => result.kept);
  if (asJson) {
    output.line(JSON.stringify({ version: 1, kept, results }, null, 2));
    return kept;
  }
  const figure = (value: number) => (Number.isInteger(value) ? value.toLocaleString('en') : value.toFixed(2));
  for (const { what, found, allowed, unit, kept: isKept } of results) {
    const words = `${what}: ${figure(found)} ${unit}, allowed ${figure(allowed)}`;
    output.line(isKept ? `kept      ${words}` : output.style('red', `exceeded  ${words}`));
  }
  if (results.length === 0) output.line('Nothing in the recording falls under this budget.');
  return kept;
}
