import type { Sting } from './sting';
import { countText, durationText } from '../words/figures';

type Felt = Pick<Sting, 'feltMs' | 'budgetMs' | 'isRate'>;

/** What a sting took: a delay as "312 ms", what goes on as "45 ms/s". */
export function feltText({ feltMs, isRate }: Pick<Felt, 'feltMs' | 'isRate'>): string {
  return isRate ? `${countText(feltMs)} ms/s` : durationText(feltMs);
}

/** What it was allowed to take, in the same unit: "200 ms", "100 ms/s". */
export function budgetText({ budgetMs, isRate }: Pick<Felt, 'budgetMs' | 'isRate'>): string {
  return feltText({ feltMs: budgetMs, isRate });
}

/** "312 ms, budget 200 ms". */
export function feltAndBudgetText(sting: Felt): string {
  return `${feltText(sting)}, budget ${budgetText(sting)}`;
}
