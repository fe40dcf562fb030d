import type { Vehicle } from '../../data/vehicles';
import { byId, make } from '../dom';
import type { FaultSwitches } from '../faults';
import { letDrag } from './drag';
import type { DeckLog } from './log';
import { LANES, placeOnPlan, stow } from './lanes';
import { computeTrimByMoments, computeTrimByPairs, type LoadAndTrim } from './trim';

const percent = (share: number) => `${(share * 100).toFixed(3)}%`;

function drawLanes(plan: HTMLElement): void {
  for (let lane = 0; lane < LANES; lane++) {
    const line = make('div', 'lane', String(lane + 1));
    line.style.top = percent(lane / LANES);
    plan.append(line);
  }
}

function drawVehicles(plan: HTMLElement, vehicles: readonly Vehicle[]): void {
  for (const vehicle of plan.querySelectorAll('.vehicle')) vehicle.remove();
  for (const stowed of stow(vehicles)) {
    const { left, top, width } = placeOnPlan(stowed);
    const box = make('div', `vehicle ${stowed.vehicle.kind}`);
    box.title = `${stowed.vehicle.plate}, ${stowed.vehicle.weight} t`;
    Object.assign(box.style, { left: percent(left), top: percent(top), width: percent(width) });
    plan.append(box);
  }
}

function showFigures({ load, trim, list }: LoadAndTrim, boarded: number, waiting: number): void {
  byId('figure-load').textContent = `${load.toFixed(0)} t`;
  byId('figure-trim').textContent = `${trim.toFixed(2)} m`;
  byId('figure-list').textContent = `${list.toFixed(1)}°`;
  byId('figure-boarded').textContent = `${boarded} of ${boarded + waiting}`;
}

/** The deck plan: which vehicle stands where, and what that does to the ship. */
export function keepDeck(vehicles: readonly Vehicle[], switches: FaultSwitches, log: DeckLog): void {
  const plan = byId('deck-plan');
  const boardedAtStart = Math.round(vehicles.length * 0.6);
  drawLanes(plan);

  const show = (boarded: readonly Vehicle[], compute: typeof computeTrimByPairs) => {
    const figures = compute(stow(boarded));
    drawVehicles(plan, boarded);
    showFigures(figures, boarded.length, vehicles.length - boarded.length);
  };

  byId('board-all').addEventListener('click', function onBoardAll() {
    show(vehicles, switches.isMended('board-all') ? computeTrimByMoments : computeTrimByPairs);
  });
  byId('undo-boarding').addEventListener('click', function onUndoBoarding() {
    show(vehicles.slice(0, boardedAtStart), computeTrimByMoments);
  });
  show(vehicles.slice(0, boardedAtStart), computeTrimByMoments);
  letDrag(plan, switches, log);
}
