import {
  quietRanges,
  quietSums,
  thresholdsOf,
  type QuietSums,
  type Recording,
  type TimeRange,
} from '@nettle-patch/core';
import { namedFunction } from './named-function';

/** What went on in a quiet range, as the interface shows it. */
export interface ShownQuiet extends Omit<QuietSums, 'functions' | 'elements'> {
  /** Whether a person marked it, so that it can be taken away. */
  readonly isMarked: boolean;
  readonly elements: readonly { readonly target: string | undefined; readonly count: number }[];
  readonly functions: readonly { readonly functionId: number; readonly name: string; readonly ms: number }[];
}

const MAX_LISTED = 3;

/**
 * What went on in each range in which nothing should change.
 * @param marked those a person marked, in place of those that the recording was read with
 */
export function shownQuiet(recording: Recording, marked: readonly TimeRange[]): ShownQuiet[] {
  const header = { ...recording.header, quiet: [...marked] };
  return quietRanges({ ...recording, header }).map((range) => {
    const { functions, elements, ...sums } = quietSums(recording, range, thresholdsOf(header));
    return {
      ...sums,
      isMarked: marked.some(({ startMs, endMs }) => startMs === range.startMs && endMs === range.endMs),
      elements: elements.slice(0, MAX_LISTED).map(({ target, count }) => ({ target, count })),
      functions: functions.slice(0, MAX_LISTED).map(({ functionId, chargedMs }) => ({
        functionId,
        name: namedFunction(recording, functionId).name,
        ms: chargedMs,
      })),
    };
  });
}
