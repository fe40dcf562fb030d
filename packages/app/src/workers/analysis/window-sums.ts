import {
  interactionsOf,
  rangeSums,
  thresholdsOf,
  type Culprit,
  type ElementRedraws,
  type Owner,
  type RangeSums,
  type Recording,
  type TimeRange,
} from '@nettle-patch/core';
import { namedFunction } from './named-function';

/** A function in a sum, with the line of it that most was charged to, where lines are known. */
export interface SummedFunction extends Pick<Culprit, 'functionId' | 'chargedMs'> {
  readonly name: string;
  readonly place: string;
  readonly owner: Owner;
  readonly line: { readonly line: number; readonly share: number } | undefined;
}

/** Redraws of an element, with the name of the function that wrote most of them, or perhaps wrote them. */
export interface SummedRedraws extends ElementRedraws {
  readonly writer: string | undefined;
}

/** The sum of a range as the interface shows it. */
export interface WindowSums extends Omit<RangeSums, 'functions' | 'redraws' | 'inputs'> {
  /** Those with the most time. */
  readonly functions: readonly SummedFunction[];
  /** How many functions any time was charged to. */
  readonly functionCount: number;
  readonly redraws: readonly SummedRedraws[];
  readonly inputs: Omit<RangeSums['inputs'], 'worst'> & {
    readonly worst: { readonly label: string; readonly feltMs: number; readonly ref: number } | undefined;
  };
}

const MAX_FUNCTIONS = 8;

function summedFunction(
  recording: Recording,
  { functionId, chargedMs, hotLines: [hottest] }: Culprit,
): SummedFunction {
  const { name, place, owner } = namedFunction(recording, functionId);
  const line = hottest && { line: hottest.line, share: hottest.chargedMs / chargedMs };
  return { functionId, chargedMs, name, place, owner, line };
}

/** What goes on in a range of a thread, summed. @param thread that of the lens */
export function windowSums(recording: Recording, range: TimeRange, thread: number): WindowSums {
  const sums = rangeSums(recording, range, thresholdsOf(recording.header), thread);
  const { worst } = sums.inputs;
  return {
    ...sums,
    functions: sums.functions.slice(0, MAX_FUNCTIONS).map((one) => summedFunction(recording, one)),
    functionCount: sums.functions.length,
    redraws: sums.redraws.map((one) => {
      const by = one.functionId ?? one.ranBefore;
      return { ...one, writer: by === undefined ? undefined : namedFunction(recording, by).name };
    }),
    inputs: {
      ...sums.inputs,
      worst: worst && {
        label: worst.label,
        feltMs: worst.feltMs,
        ref: interactionsOf(recording).indexOf(worst),
      },
    },
  };
}
