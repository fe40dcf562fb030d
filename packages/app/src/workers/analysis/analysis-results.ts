import type {
  Anatomy,
  BecausePart,
  CauseLink,
  Excerpt,
  Header,
  KeptSteps,
  Owner,
  PhaseName,
  ReadNotice,
  Skyline,
  Sting,
  Suggestion,
  Thresholds,
  TimeRange,
} from '@nettle-patch/core';

/** A function by name and place, ready to be shown. */
export interface NamedFunction {
  readonly name: string;
  readonly place: string;
  readonly owner: Owner;
  /** Where it begins in its source, by which it can be looked at closer: "file:line:column"; absent where that is not known. */
  readonly start?: string;
}

/** One series of stings as the list shows it. */
export interface ListedSeries {
  readonly label: string;
  /** Indexes into `OpenedRecording.stings`, the worst first. */
  readonly stings: readonly number[];
  readonly attempts?: number;
}

/** A sting with the lengths of its phases, in their order, for the bar in the list. */
export interface ListedSting extends Sting {
  readonly parts: readonly { readonly name: PhaseName; readonly ms: number }[];
  /** Of the delay, the part in which its thread did nothing. */
  readonly idleMs: number;
}

/** A recording as the interface shows it. Nothing in it grows with the number of calls. */
export interface OpenedRecording {
  readonly id: string;
  readonly header: Header;
  readonly range: TimeRange;
  /** The budgets it is held against. */
  readonly thresholds: Thresholds;
  readonly notices: readonly ReadNotice[];
  readonly stings: readonly ListedSting[];
  readonly series: readonly ListedSeries[];
  readonly skyline: Skyline;
  /** Starts of all interactions. */
  readonly inputs: readonly number[];
  readonly threads: readonly { readonly id: number; readonly name: string }[];
  /** When nothing was recorded, because recording was paused. */
  readonly pauses: readonly TimeRange[];
  /** Scripts whose functions could not be mapped, and why. */
  readonly unmapped: readonly { readonly url: string; readonly problem: string }[];
  /** What was done in it, so that it can be done again; undefined where that is not known. */
  readonly replay?: KeptSteps;
  /** Recorder's share of the main thread, 0 to 1; undefined when it was not measured. */
  readonly costShare?: number | undefined;
}

/** Lines of a function that are shown in a sting, with their code. */
export const MAX_HOT_LINES = 3;

/** A sting taken apart, with the names of all functions that appear in it. */
export interface OpenedSting {
  readonly anatomy: Anatomy;
  readonly because: readonly BecausePart[];
  readonly suggestions: readonly Suggestion[];
  /** How what ran longest came to run, from what a person did on. */
  readonly cause: readonly CauseLink[];
  readonly functions: ReadonlyMap<number, NamedFunction>;
  /** By function and line, as "12 26": the code of hot lines, where the recording carries it. */
  readonly codeOfLines: ReadonlyMap<string, string>;
  /** Source of the culprits, the dearest first, by function; of those whose text the recording carries. */
  readonly excerpts: ReadonlyMap<number, Excerpt>;
}

export type OpenProgress = (done: number, total: number) => void;
