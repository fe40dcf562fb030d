import { NO_STACK } from '../format/packed-samples';
import { firstIndex } from '../statistics/search';
import { Samples } from './samples';

/** Samples of one thread that were taken at one interval, in the order they came. */
export interface SampledSeries {
  readonly intervalMs: number;
  readonly timesUs: number[];
  readonly stacks: number[];
  /** See `SampleColumns`; undefined where all came one by one. */
  together?: number[];
}

/** A look from further away says nothing where a closer one was taken within so many of its intervals. */
const CLOSE_INTERVALS = 2;

/**
 * The samples of one thread from all samplers that took some. Where the closest saw script, the others say nothing more:
 * of them are kept those that no closer look was near.
 */
export function mergeSamplers(series: readonly SampledSeries[]): Samples {
  const [closest, ...others] = [...series].sort((a, b) => a.intervalMs - b.intervalMs);
  if (closest === undefined) return new Samples(0, [], []);
  if (others.length === 0)
    return new Samples(closest.intervalMs, closest.timesUs, closest.stacks, undefined, closest.together);
  const seenUs = Float64Array.from(closest.timesUs.filter((_, at) => closest.stacks[at] !== NO_STACK)).sort();
  const reachUs = CLOSE_INTERVALS * closest.intervalMs * 1000;
  const timesUs = [...closest.timesUs];
  const stacks = [...closest.stacks];
  const intervals = closest.timesUs.map(() => closest.intervalMs);
  const together = series.some((one) => one.together !== undefined)
    ? closest.timesUs.map((_, at) => closest.together?.[at] ?? 1)
    : undefined;
  for (const other of others) {
    other.timesUs.forEach((timeUs, at) => {
      const next = firstIndex(seenUs.length, (index) => seenUs[index]! >= timeUs - reachUs);
      if (next < seenUs.length && seenUs[next]! <= timeUs + reachUs) return;
      timesUs.push(timeUs);
      stacks.push(other.stacks[at]!);
      intervals.push(other.intervalMs);
      together?.push(other.together?.[at] ?? 1);
    });
  }
  return new Samples(closest.intervalMs, timesUs, stacks, intervals, together);
}
