import { anatomyOf, type PhaseName } from '../explanation/anatomy';
import type { TimeBreakdown } from '../attribution/time-breakdown';
import { interactionsOf } from '../inputs/interactions';
import { displayName, displayPlace } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { findStings } from '../detectors/index';
import { asSlowResponse } from '../detectors/slow-response';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';

/** A function that held up an answer. */
export interface TypicalCulprit {
  readonly name: string;
  readonly place: string;
  /** What would have been saved at most had it taken no time. Milliseconds. */
  readonly savedMs: number;
}

/** The answer of middle length among those of one label, taken apart. Milliseconds from its input. */
export interface TypicalAnatomy {
  readonly feltMs: number;
  readonly budgetMs: number;
  readonly phases: readonly {
    readonly name: PhaseName;
    readonly startMs: number;
    readonly endMs: number;
    readonly blame: TimeBreakdown;
  }[];
  readonly blame: TimeBreakdown;
  readonly culprits: readonly TypicalCulprit[];
}

/** What was done under one label, before and after, each by its middle attempt. */
export interface ComparedAnatomies {
  readonly label: string;
  readonly before: TypicalAnatomy | undefined;
  readonly after: TypicalAnatomy | undefined;
}

const MAX_CULPRITS = 4;

/** That of middle length, the longer one of two. */
function middleOf(stings: readonly Sting[]): Sting | undefined {
  return [...stings].sort((a, b) => a.feltMs - b.feltMs)[stings.length >> 1];
}

function typicalOf(recording: Recording, label: string, thresholds: Thresholds): TypicalAnatomy | undefined {
  const done = interactionsOf(recording)
    .filter((interaction) => interaction.label === label)
    .map((interaction) => asSlowResponse(interaction, thresholds));
  const went =
    done.length > 0 ? done : findStings(recording, thresholds).filter((one) => one.label === label);
  const sting = middleOf(went);
  if (sting === undefined) return undefined;
  const { phases, blame, culprits } = anatomyOf(recording, sting);
  return {
    feltMs: sting.feltMs,
    budgetMs: sting.budgetMs,
    phases: phases.map(({ name, startMs, endMs, blame: of }) => ({
      name,
      startMs: startMs - sting.startMs,
      endMs: endMs - sting.startMs,
      blame: of,
    })),
    blame,
    culprits: culprits.slice(0, MAX_CULPRITS).map(({ functionId, savedMs }) => {
      const recorded = recording.functions.get(functionId);
      const place = displayPlace(recorded, recording.sources.get(recorded?.source ?? -1));
      return { name: displayName(recorded), place, savedMs };
    }),
  };
}

/** Takes the middle attempt of one label apart in both recordings, so that both can be held against each other. */
export function compareAnatomies(
  before: Recording,
  after: Recording,
  label: string,
  thresholds: Thresholds,
): ComparedAnatomies {
  return {
    label,
    before: typicalOf(before, label, thresholds),
    after: typicalOf(after, label, thresholds),
  };
}
