import type { Interaction } from '../inputs/interactions';
import type { Sting } from './sting';

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
    const key = `${sting.kind} ${sting.label}`;
    groups.set(key, [...(groups.get(key) ?? []), sting]);
  }
  return [...groups.values()].map((stings) => {
    const label = stings[0]!.label;
    const done = interactions.filter((interaction) => interaction.label === label).length;
    return stings[0]!.interaction ? { label, stings, attempts: done } : { label, stings };
  });
}
