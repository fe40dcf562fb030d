import { interactionsOf } from '../inputs/interactions';
import type { Recording } from '../recording/recording';
import type { Sting } from './sting';
import type { Thresholds } from './thresholds';

/** Inputs whose result was on the screen later than the response budget allows. */
export function findSlowResponses(recording: Recording, thresholds: Thresholds): Sting[] {
  return interactionsOf(recording)
    .filter((interaction) => interaction.measured && interaction.feltMs > thresholds.responseMs)
    .map((interaction) => ({
      kind: 'slow-response',
      also: [],
      thread: interaction.thread,
      label: interaction.label,
      startMs: interaction.startMs,
      endMs: interaction.startMs + interaction.feltMs,
      feltMs: interaction.feltMs,
      budgetMs: thresholds.responseMs,
      interaction,
    }));
}
