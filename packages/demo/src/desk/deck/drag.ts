import type { FaultSwitches } from '../faults';
import type { DeckLog } from './log';

/** How far a vehicle moves aside for one that is dragged past at some distance, as CSS pixels. */
function roomFor(distance: number): string {
  return `${(24 / (1 + distance / 30)).toFixed(2)}px`;
}

/** Moves every vehicle out of the way of the dragged one, and reads its place after each write. */
function makeRoomOneByOne(dragged: HTMLElement, shift: number, others: readonly HTMLElement[]): void {
  const left = dragged.offsetLeft + shift;
  for (const other of others) {
    other.style.marginLeft = roomFor(Math.abs(other.offsetLeft - left));
  }
}

/** Reads all places first and writes only then. */
function makeRoomAtOnce(dragged: HTMLElement, shift: number, others: readonly HTMLElement[]): void {
  const left = dragged.offsetLeft + shift;
  const rooms = others.map((other) => roomFor(Math.abs(other.offsetLeft - left)));
  others.forEach((other, index) => (other.style.marginLeft = rooms[index]!));
}

/** Lets vehicles be dragged over the plan. */
export function letDrag(plan: HTMLElement, switches: FaultSwitches, log: DeckLog): void {
  let dragged: HTMLElement | undefined;
  let grabbed = { x: 0, y: 0 };

  function onDragMove(event: PointerEvent): void {
    if (dragged === undefined) return;
    const shift = event.clientX - grabbed.x;
    dragged.style.transform = `translate(${shift}px, ${event.clientY - grabbed.y}px)`;
    const others = [...plan.querySelectorAll<HTMLElement>('.vehicle')].filter((other) => other !== dragged);
    if (switches.isMended('deck-drag')) makeRoomAtOnce(dragged, shift, others);
    else makeRoomOneByOne(dragged, shift, others);
  }

  function onDragEnd(): void {
    if (dragged === undefined) return;
    dragged.classList.remove('dragged');
    dragged.style.transform = '';
    log.moved(dragged.title);
    dragged = undefined;
  }

  plan.addEventListener('pointerdown', function onDragStart(event) {
    const vehicle = (event.target as HTMLElement).closest<HTMLElement>('.vehicle');
    if (vehicle === null) return;
    dragged = vehicle;
    dragged.classList.add('dragged');
    grabbed = { x: event.clientX, y: event.clientY };
    plan.setPointerCapture(event.pointerId);
  });
  plan.addEventListener('pointermove', onDragMove);
  plan.addEventListener('pointerup', onDragEnd);
  plan.addEventListener('pointercancel', onDragEnd);
}
