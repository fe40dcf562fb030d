import { outcomesOf } from '../outcomes/outcome';
import type { Recording } from '../recording/recording';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../stings/thresholds';

/** Inputs of which the last change on the screen that they set going came later than the budget allows. */
export function findSlowOutcomes(recording: Recording, { outcomeMs }: Thresholds): Sting[] {
  return outcomesOf(recording)
    .filter(({ lengthMs }) => lengthMs > outcomeMs)
    .map(({ interaction, startMs, endMs, lengthMs, target, steps, page }) => ({
      kind: 'slow-outcome',
      also: [],
      thread: interaction.thread,
      label: interaction.label,
      startMs,
      endMs,
      feltMs: lengthMs,
      budgetMs: outcomeMs,
      interaction,
      detail: { type: 'slow-outcome', target, isPage: page !== undefined, steps },
    }));
}
