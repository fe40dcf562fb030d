import { interactionsOf, type Interaction } from '../inputs/interactions';
import type { Recording } from '../recording/recording';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../stings/thresholds';

/** An interaction as a slow response, whether it was too late or not, so that it can be taken apart. */
export function asSlowResponse(interaction: Interaction, { responseMs }: Thresholds): Sting {
  const { thread, label, startMs, feltMs } = interaction;
  return {
    kind: 'slow-response',
    also: [],
    thread,
    label,
    startMs,
    endMs: startMs + feltMs,
    feltMs,
    budgetMs: responseMs,
    interaction,
  };
}

/** Inputs whose result was on the screen later than the response budget allows. */
export function findSlowResponses(recording: Recording, thresholds: Thresholds): Sting[] {
  return interactionsOf(recording)
    .filter((interaction) => interaction.measured && interaction.feltMs > thresholds.responseMs)
    .map((interaction) => asSlowResponse(interaction, thresholds));
}
