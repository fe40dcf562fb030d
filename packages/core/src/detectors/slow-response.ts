import { interactionsOf, type Interaction } from '../inputs/interactions';
import type { Recording } from '../recording/recording';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import { stingOf, type Detector, type Found } from './detector';

function found(interaction: Interaction, { responseMs }: Thresholds): Found {
  const { thread, label, startMs, feltMs } = interaction;
  return {
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
function find(recording: Recording, thresholds: Thresholds): Found[] {
  return interactionsOf(recording)
    .filter((interaction) => interaction.measured && interaction.feltMs > thresholds.responseMs)
    .map((interaction) => found(interaction, thresholds));
}

export const slowResponse: Detector<'slow-response'> = {
  kind: 'slow-response',
  label: 'slow response',
  about: 'An input whose picture came later than the response budget (`responseMs`)',
  extent: 'block',
  isRate: false,
  find,
};

/** An interaction as a slow response, whether it was too late or not, so that it can be taken apart. */
export function asSlowResponse(interaction: Interaction, thresholds: Thresholds): Sting {
  return stingOf(slowResponse, found(interaction, thresholds));
}
