import type { Vehicle } from '../../data/vehicles';

/** A vehicle with its place on the deck: metres forward of the middle and to starboard of the keel. */
export interface Stowed {
  readonly vehicle: Vehicle;
  readonly forward: number;
  readonly starboard: number;
}

export interface LoadAndTrim {
  /** Tonnes. */
  readonly load: number;
  /** Metres by the head. */
  readonly trim: number;
  /** Degrees to starboard. */
  readonly list: number;
}

const HULL_STATIONS = 450;
const TRIM_MOMENT = 9200;
const LIST_MOMENT = 2600;

/** The bending that a pair of vehicles causes, summed over the stations of the hull. */
function bendingOfPair(a: Stowed, b: Stowed): number {
  let bending = 0;
  for (let station = 0; station < HULL_STATIONS; station++) {
    const arm = (station / HULL_STATIONS - 0.5) * 60;
    const lever = Math.sqrt((arm - a.forward) * (arm - a.forward) + a.starboard * a.starboard);
    bending += lever * Math.cos((arm - b.forward) / 30) * a.vehicle.weight * b.vehicle.weight;
  }
  return bending / HULL_STATIONS;
}

/** The bending that all pairs of vehicles cause together. */
function bendingOfAllPairs(stowed: readonly Stowed[]): number {
  let bending = 0;
  stowed.forEach((first, index) => {
    for (const second of stowed.slice(index + 1)) bending += bendingOfPair(first, second);
  });
  return bending;
}

/** Load and trim, with a look at every pair of vehicles to see that the hull bears them. */
export function computeTrimByPairs(stowed: readonly Stowed[]): LoadAndTrim {
  const bending = bendingOfAllPairs(stowed);
  if (!Number.isFinite(bending)) throw new RangeError('a vehicle has no weight or no place');
  return computeTrimByMoments(stowed);
}

/** Load and trim from the sum of moments: one look at each vehicle. */
export function computeTrimByMoments(stowed: readonly Stowed[]): LoadAndTrim {
  let load = 0;
  let forward = 0;
  let starboard = 0;
  for (const { vehicle, ...place } of stowed) {
    load += vehicle.weight;
    forward += vehicle.weight * place.forward;
    starboard += vehicle.weight * place.starboard;
  }
  return { load, trim: forward / TRIM_MOMENT, list: (starboard / LIST_MOMENT) * 10 };
}
