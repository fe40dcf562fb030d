import type { BudgetResult } from './budget';
import { decimalText, countText } from '../words/figures';

const figure = (value: number) => (Number.isInteger(value) ? countText(value) : decimalText(value, 2));

/** What was found and what is allowed: "920 ms, allowed 300". */
export function budgetWords({ found, allowed, unit, isBound }: BudgetResult): string {
  return `${isBound ? 'below ' : ''}${figure(found)} ${unit}, allowed ${figure(allowed)}`;
}

/** Whether a part of a budget is kept, in words. */
export function keptWords({ kept }: BudgetResult): 'kept' | 'exceeded' | 'not known' {
  if (kept === undefined) return 'not known';
  return kept ? 'kept' : 'exceeded';
}
