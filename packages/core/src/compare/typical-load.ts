import { median } from '../statistics/median';
import type { Delay } from './series-runs';

/** What each load of a series of loads is worth under one label, by the place of the load. */
export type LoadValues = ReadonlyMap<string, ReadonlyMap<number, Delay>>;

/**
 * The load whose values lie nearest to the medians of all, in steps of the same factor up and down; what a load has not
 * got is as far away as twice the time.
 * @param count loads, at least one
 * @returns its place
 */
export function typicalLoad(count: number, values: LoadValues): number {
  const away = new Array<number>(count).fill(0);
  for (const ofLoads of values.values()) {
    const middle = median([...ofLoads.values()].map(({ ms }) => ms));
    for (let at = 0; at < count; at++) {
      const delay = ofLoads.get(at);
      away[at]! += delay === undefined ? Math.LN2 : Math.abs(Math.log((delay.ms + 1) / (middle + 1)));
    }
  }
  return away.indexOf(Math.min(...away));
}
