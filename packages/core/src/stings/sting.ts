import type { OutcomeStep } from '../outcomes/steps';
import type { Interaction } from '../inputs/interactions';
import type { Slope } from '../statistics/theil-sen';
import type { TimeRange } from '../recording/recording';

/** Kinds of stings, in the order of precedence: what lies within one of an earlier kind becomes part of it. */
export const STING_KINDS = [
  'slow-response',
  'slow-outcome',
  'late-frames',
  'hang',
  'long-task',
  'forced-layout',
  'creep',
  'idle-work',
  'too-often',
] as const;
export type StingKind = (typeof STING_KINDS)[number];

/** What a detector found beside the delay itself, by the kind of sting. */
export type StingDetail =
  | {
      readonly type: 'slow-outcome';
      /** Label of what changed last, or path of the page it led to. */
      readonly target: string | undefined;
      readonly isPage: boolean;
      /** From the input to the outcome; they follow each other. */
      readonly steps: readonly OutcomeStep[];
    }
  | {
      readonly type: 'late-frames';
      readonly late: number;
      readonly missed: number;
      readonly refreshMs: number;
    }
  | {
      readonly type: 'forced-layout';
      readonly functionId: number | undefined;
      readonly count: number;
      readonly read: string;
    }
  | {
      readonly type: 'idle-work';
      readonly functionId: number;
      /** Runs a second, and what they cost together. */
      readonly timesASecond: number;
      readonly msASecond: number;
      /** Of what it wrote to the page, the share that was the same before, or that nobody could see. */
      readonly unchangedShare: number;
      readonly unseenShare: number;
      readonly target: string | undefined;
    }
  | {
      readonly type: 'creep';
      readonly functionId: number;
      /** Cost a second in the first and in the last quarter. */
      readonly fromMs: number;
      readonly toMs: number;
      /** Growth of the cost a second, in milliseconds a minute, with its 95 % interval. */
      readonly slope: Slope;
      /** How often it ran a second in the first and in the last quarter. */
      readonly runs: { readonly from: number; readonly to: number };
    }
  | {
      readonly type: 'input-creep';
      /** The function entered most for it, where it is known. */
      readonly functionId: number | undefined;
      /** What was done, within a sentence. */
      readonly deed: string;
      readonly attempts: number;
      /** What handling took in the first and in the last quarter. */
      readonly fromMs: number;
      readonly toMs: number;
      /** Growth an attempt, in milliseconds, with its 95 % interval. */
      readonly slope: Slope;
    }
  | {
      readonly type: 'redrawn-too-often';
      readonly functionId: number;
      readonly timesASecond: number;
      readonly msASecond: number;
      /** Of its redraws, the share that wrote what was there before. */
      readonly unchangedShare: number;
      readonly target: string | undefined;
    }
  | {
      readonly type: 'moved-by-layout';
      readonly functionId: number;
      /** Frames a second in which it was moved, and what style and layout took in them of each second. */
      readonly timesASecond: number;
      readonly msASecond: number;
      readonly target: string | undefined;
    }
  | {
      readonly type: 'unseen';
      /** How often the thread was busy with what was not seen, and for how long in all. */
      readonly times: number;
      readonly totalMs: number;
      /** What would make it seen. */
      readonly remedy: string;
    }
  | {
      readonly type: 'too-often';
      readonly functionId: number;
      /** Calls in one task, and what they took together. */
      readonly calls: number;
      readonly totalMs: number;
    };

/** One delay that a person felt, or would have felt. */
export interface Sting extends TimeRange {
  readonly kind: StingKind;
  /** Other kinds found at the same place and merged into this one. */
  readonly also: readonly StingKind[];
  readonly thread: number;
  readonly label: string;
  /** What it is called by itself, where the label says which input began it. */
  readonly ownLabel?: string;
  /**
   * Milliseconds from the input to the picture; without an input, those one would have waited. Of idle work and creep,
   * the milliseconds of a second that it takes.
   */
  readonly feltMs: number;
  readonly budgetMs: number;
  readonly detail?: StingDetail;
  /** What the person did, where somebody was waiting. */
  readonly interaction?: Interaction;
}

export function excessMs(sting: Sting): number {
  return sting.feltMs - sting.budgetMs;
}

const ONE_STRETCH: ReadonlySet<StingKind> = new Set(['slow-response', 'hang', 'long-task']);

/** Whether stings of a kind are one stretch in which the thread was taken, with one picture at its end. */
export function isOneStretch(kind: StingKind): boolean {
  return ONE_STRETCH.has(kind);
}
