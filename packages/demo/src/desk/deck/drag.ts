import type { FaultSwitches } from '../faults';

/** Moves every vehicle out of the way of the dragged one, and reads its size after each write. */
function makeRoomOneByOne(dragged: HTMLElement, others: readonly HTMLElement[]): void {
  const left = dragged.offsetLeft;
  for (const other of others) {
    other.style.marginLeft = Math.abs(other.offsetLeft - left) < other.offsetWidth ? '2px' : '0px';
  }
}

/** Reads all places first and writes only what changes. */
function makeRoomAtOnce(dragged: HTMLElement, others: readonly HTMLElement[]): void {
  const left = dragged.offsetLeft;
  const near = others.map((other) => Math.abs(other.offsetLeft - left) < other.offsetWidth);
  others.forEach((other, index) => {
    const margin = near[index] ? '2px' : '0px';
    if (other.style.marginLeft !== margin) other.style.marginLeft = margin;
  });
}

/** Lets vehicles be dragged over the plan. */
export function letDrag(plan: HTMLElement, switches: FaultSwitches): void {
  let dragged: HTMLElement | undefined;
  let grabbed = { x: 0, y: 0 };

  function onDragMove(event: PointerEvent): void {
    if (dragged === undefined) return;
    dragged.style.transform = `translate(${event.clientX - grabbed.x}px, ${event.clientY - grabbed.y}px)`;
    const others = [...plan.querySelectorAll<HTMLElement>('.vehicle')].filter((other) => other !== dragged);
    if (switches.isMended('deck-drag')) makeRoomAtOnce(dragged, others);
    else makeRoomOneByOne(dragged, others);
  }

  function onDragEnd(): void {
    if (dragged === undefined) return;
    dragged.classList.remove('dragged');
    dragged.style.transform = '';
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
