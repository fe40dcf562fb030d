import type { Vehicle } from '../../data/vehicles';
import type { Stowed } from './trim';

export const LANES = 12;
const DECK_LENGTH = 172;
const GAP = 0.4;
const LANE_WIDTH = 3;

/** Fills the lanes in turn, from the bow aft, each vehicle into the emptiest lane. */
export function stow(vehicles: readonly Vehicle[]): (Stowed & { readonly lane: number })[] {
  const filled = new Array<number>(LANES).fill(0);
  return vehicles.map((vehicle) => {
    const lane = filled.indexOf(Math.min(...filled));
    const forward = DECK_LENGTH / 2 - filled[lane]! - vehicle.length / 2;
    filled[lane] = filled[lane]! + vehicle.length + GAP;
    return { vehicle, lane, forward, starboard: (lane - (LANES - 1) / 2) * LANE_WIDTH };
  });
}

/** Where a stowed vehicle stands on the plan, as shares of its width and height. */
export function placeOnPlan(stowed: Stowed & { readonly lane: number }): {
  left: number;
  top: number;
  width: number;
} {
  const aft = DECK_LENGTH / 2 - stowed.forward - stowed.vehicle.length / 2;
  return { left: aft / DECK_LENGTH, top: stowed.lane / LANES, width: stowed.vehicle.length / DECK_LENGTH };
}
