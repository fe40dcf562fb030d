import type { Comparison } from '../compare/compare';
import type { BudgetResult } from './budget';
import { budgetWords } from './budget-words';
import { changeWords, firmnessWords, sideWords, verdictWords } from './comparison-words';
import type { TestCase } from './junit';

/** Each part of a budget as a test: it fails where it is exceeded, and is skipped where that cannot be told. */
export function budgetCases(results: readonly BudgetResult[]): TestCase[] {
  return results.map((result) => {
    const { what, kept, unit, found } = result;
    const name = { name: what, ...(unit === 'ms' ? { tookMs: found } : {}) };
    if (kept === true) return { ...name, outcome: 'passed' };
    const outcome = kept === false ? 'failed' : 'skipped';
    return { ...name, outcome, message: budgetWords(result) };
  });
}

/** Each thing that was done in both recordings as a test: it fails where it has become slower. */
export function comparisonCases({ series, tested }: Pick<Comparison, 'series' | 'tested'>): TestCase[] {
  return series.map((one) => {
    const { label: name, verdict, before, after } = one;
    const message = [verdictWords(verdict), changeWords(one)].filter((words) => words !== '').join(': ');
    const details = `before: ${sideWords(before)}\nafter: ${sideWords(after)}\n${firmnessWords(one, tested)}`;
    const tookMs = after.medianMs ?? 0;
    if (verdict === 'slower') return { name, tookMs, outcome: 'failed', message, details };
    if (verdict === 'too-few-to-say') return { name, tookMs, outcome: 'skipped', message };
    return { name, tookMs, outcome: 'passed' };
  });
}
