import { occurrencesOf, statisticsOf, WIDE_LENS, type Recording } from '@nettle-patch/core';

/** How long all occurrences of the same item took. Milliseconds. */
export interface Others {
  readonly count: number;
  readonly totalMs: number;
  readonly shortestMs: number;
  readonly medianMs: number;
  readonly p95Ms: number;
  readonly longestMs: number;
}

/** Statistics over all items of a kind that are the same; undefined where there is only one. */
export function othersAmong<T extends { readonly durationMs: number }>(
  items: Iterable<T>,
  isSame: (item: T) => boolean,
): Others | undefined {
  const lengthsMs: number[] = [];
  for (const item of items) if (isSame(item)) lengthsMs.push(item.durationMs);
  return lengthsMs.length > 1 ? statisticsOf(Float64Array.from(lengthsMs)) : undefined;
}

const known = new WeakMap<Recording, Map<string, Others | undefined>>();

/** The same over all calls of a function on a thread; counted once. */
export function callStatistics(recording: Recording, thread: number, functionId: number): Others | undefined {
  const ofRecording = known.get(recording) ?? new Map<string, Others | undefined>();
  known.set(recording, ofRecording);
  const key = `${thread} ${functionId}`;
  if (!ofRecording.has(key)) {
    const { statistics } = occurrencesOf(recording, { ...WIDE_LENS, thread }, functionId);
    ofRecording.set(key, statistics);
  }
  return ofRecording.get(key);
}
