import { interactionsOf, type Interaction } from '../inputs/interactions';
import type { Recording } from '../recording/recording';
import { eventLane } from './event-lane';
import type { TimelineEvent } from './event-rows';
import type { Lane } from './lane';
import { itemStyleCode } from './item-styles';

const MAX_ROWS = 3;

/** An interaction in its three phases; one too short to be measured as a mark. */
function phasesOf(interaction: Interaction, ref: number): TimelineEvent[] {
  const { startMs, feltMs, measured, processingStartMs, processingEndMs } = interaction;
  if (!measured) return [{ startMs, endMs: startMs, style: itemStyleCode('handling'), ref }];
  const edges = [startMs, processingStartMs, processingEndMs, startMs + feltMs];
  return (['waiting', 'handling', 'drawing'] as const)
    .map((style, at) => ({ startMs: edges[at]!, endMs: edges[at + 1]!, style: itemStyleCode(style), ref }))
    .filter(({ startMs: fromMs, endMs }) => endMs > fromMs);
}

/** What the person did, each from the input to its picture. Numbered as `interactionsOf` has them. */
export function inputsLane(recording: Recording): Lane | undefined {
  const interactions = interactionsOf(recording);
  return eventLane({
    kind: 'inputs',
    title: 'Inputs',
    events: interactions.flatMap(phasesOf),
    mostRows: MAX_ROWS,
    words: (ref) => interactions[ref]!.label,
  });
}
