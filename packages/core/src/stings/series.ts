import { appendTo } from '../recording/group';
import type { Interaction } from '../inputs/interactions';
import type { Sting } from './sting';
import { first } from '../lists/items';

/** Stings with the same label, in order of rank, so the first is the worst. */
export interface StingSeries {
  readonly label: string;
  readonly stings: readonly Sting[];
  /** How often the same thing was done at all, stinging or not; undefined where nobody did anything. */
  readonly attempts?: number;
}

/** @param ranked stings in order of rank */
export function seriesOf(ranked: readonly Sting[], interactions: readonly Interaction[]): StingSeries[] {
  const groups = new Map<string, Sting[]>();
  for (const sting of ranked) {
    appendTo(groups, `${sting.kind} ${sting.label}`, sting);
  }
  const done = new Map<string, number>();
  for (const { label } of interactions) done.set(label, (done.get(label) ?? 0) + 1);
  return [...groups.values()].map((stings) => {
    const { label, interaction } = first(stings);
    return interaction ? { label, stings, attempts: done.get(label) ?? 0 } : { label, stings };
  });
}
