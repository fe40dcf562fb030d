import { budgetSchema } from '../report/budget-schema';
import { isTrialFile } from '../trials/trial';

/** What a person may bring: a recording in any format that can be read, steps to be done, a trial, or a budget. */
export type FileKind = 'recording' | 'steps' | 'trial' | 'budget';

/** Longest text of steps or of a budget: anything longer is taken for a recording. */
export const MAX_SMALL_FILE = 4_000_000;

/** What a text is by what it holds, whatever its file is called. What is neither steps nor a budget is left to those who read recordings. */
export function fileKindOf(text: string): FileKind {
  const value = objectIn(text);
  if (value === undefined) return 'recording';
  if (isTrialFile(value)) return 'trial';
  const names = Object.keys(value);
  if (names.includes('steps') && !names.includes('kind')) return 'steps';
  const isBudget = names.length > 0 && names.every((name) => name in budgetSchema.fields);
  return isBudget ? 'budget' : 'recording';
}

function objectIn(text: string): object | undefined {
  if (!text.trimStart().startsWith('{')) return undefined;
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'object' && value !== null && !Array.isArray(value) ? value : undefined;
  } catch {
    return undefined;
  }
}
