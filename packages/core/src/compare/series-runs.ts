import { interactionsOf } from '../inputs/interactions';
import { outcomeOf, outcomesOf } from '../outcomes/outcome';
import { displayName } from '../recording/functions';
import { appendTo } from '../recording/group';
import { memoizedPerRecording } from '../recording/memoize';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { canonicalIds } from '../calls/canonical-stacks';
import { findStings } from '../detectors/index';
import { entriesByLabel, handlingByLabel } from '../stings/handlers';
import { forcedLabel } from '../detectors/forced-layout';
import type { Sting } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';

/** One delay of a series. Milliseconds. */
export interface Delay {
  readonly ms: number;
  /** Whether it is only known that the delay was below `ms`. */
  readonly isBound: boolean;
}

/** What was done, or went on, under one label in one recording. */
export interface Runs {
  readonly isInteraction: boolean;
  /**
   * Whether every run is there, those within budget too; else only what stung is, and where there is none it may have
   * been quicker.
   */
  readonly isWhole: boolean;
  /** Whether it is a share of the time that went on and on, so that one figure tells of the whole recording. */
  readonly isRate?: boolean;
  readonly delays: readonly Delay[];
}

/** What the outcome of an input is called where it is told apart from the answer to it. */
const outcomeLabel = (label: string) => `${label}, to its outcome`;

const measured = (ms: number): Delay => ({ ms, isBound: false });

/** What every layout that a function forced in a task took, by its label. */
const forcedRuns = memoizedPerRecording((recording): ReadonlyMap<string, readonly number[]> => {
  const idOf = canonicalIds(recording);
  const runs = new Map<string, number[]>();
  for (const { thread, function: by, costMs } of recording.events.forced.rows()) {
    if (thread !== MAIN_THREAD) continue;
    const name = by === undefined ? undefined : displayName(recording.functions.get(idOf(by)));
    appendTo(runs, forcedLabel(name), costMs);
  }
  return runs;
});

function add(runs: Map<string, Runs>, label: string, more: Omit<Runs, 'delays'>, delay: Delay): void {
  const known = runs.get(label);
  if (known === undefined) runs.set(label, { ...more, delays: [delay] });
  else (known.delays as Delay[]).push(delay);
}

/**
 * All that was done in a recording, and all that went on in it and stung in one of two recordings, by label.
 * @param stung labels that stung, without anybody waiting, in either recording, and of outcomes that came later than
 * the answer
 */
export function runsOf(
  recording: Recording,
  thresholds: Thresholds,
  stung: ReadonlySet<string>,
): ReadonlyMap<string, Runs> {
  const runs = new Map<string, Runs>();
  const done = { isInteraction: true, isWhole: true };
  for (const interaction of interactionsOf(recording)) {
    const { label, feltMs, measured: isMeasured } = interaction;
    const response = { ms: feltMs, isBound: !isMeasured };
    add(runs, label, done, response);
    if (!stung.has(outcomeLabel(label))) continue;
    const outcome = outcomeOf(recording, interaction);
    // Where nothing came after the answer, the answer was all of it.
    add(runs, outcomeLabel(label), done, outcome === undefined ? response : measured(outcome.lengthMs));
  }
  const background = { isInteraction: false, isWhole: true };
  const entries = entriesByLabel(recording, MAIN_THREAD);
  const handled = handlingByLabel(recording, MAIN_THREAD);
  const forced = forcedRuns(recording);
  for (const label of stung) {
    for (const ms of entries.get(label) ?? handled.get(label) ?? forced.get(label) ?? [])
      add(runs, label, background, measured(ms));
  }
  for (const { label, feltMs, isRate } of backgroundStings(recording, thresholds)) {
    if (runs.get(label)?.isWhole !== true) {
      add(runs, label, { isInteraction: false, isWhole: false, isRate }, measured(feltMs));
    }
  }
  return runs;
}

/** Labels of the outcomes in a recording that came later than the answer to their input. */
export function outcomeLabels(recording: Recording): string[] {
  return outcomesOf(recording).map(({ interaction }) => outcomeLabel(interaction.label));
}

/** Stings for which nobody waited. */
export function backgroundStings(recording: Recording, thresholds: Thresholds): Sting[] {
  return findStings(recording, thresholds)
    .filter(({ interaction }) => interaction === undefined)
    .map((sting) => ({ ...sting, label: sting.ownLabel ?? sting.label }));
}
