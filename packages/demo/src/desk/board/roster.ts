import type { Deckhand, Shift } from '../../data/crew';
import { byId } from '../dom';
import type { FaultSwitches } from '../faults';
import { load } from '../load';

type Roster = readonly { readonly deckhand: Deckhand; readonly shifts: readonly Shift[] }[];

/** Looks through all shifts for each deckhand. */
function pairSlowly(crew: readonly Deckhand[], shifts: readonly Shift[]): Roster {
  return crew.map((deckhand) => ({
    deckhand,
    shifts: shifts.filter((shift) => shift.deckhand === deckhand.id),
  }));
}

/** Goes through the shifts once. */
function pairOnce(crew: readonly Deckhand[], shifts: readonly Shift[]): Roster {
  const byDeckhand = new Map<number, Shift[]>();
  for (const shift of shifts) {
    const known = byDeckhand.get(shift.deckhand);
    if (known === undefined) byDeckhand.set(shift.deckhand, [shift]);
    else known.push(shift);
  }
  return crew.map((deckhand) => ({ deckhand, shifts: byDeckhand.get(deckhand.id) ?? [] }));
}

function show(roster: Roster): void {
  const onDuty = roster.filter(({ shifts }) =>
    shifts.some(({ from, quay }) => quay === 'Saltwick' && from <= 12),
  );
  byId('crew-figure').textContent = `${onDuty.length} of ${roster.length} crew on duty here`;
}

/** Asks for the crew, then for their shifts, then pairs them one by one. */
async function showInARow(): Promise<void> {
  const crew = await load<Deckhand[]>('/api/crew');
  const shifts = await load<Shift[]>('/api/shifts');
  show(pairSlowly(crew, shifts));
}

/** Asks for both at once. */
async function showTogether(): Promise<void> {
  const [crew, shifts] = await Promise.all([load<Deckhand[]>('/api/crew'), load<Shift[]>('/api/shifts')]);
  show(pairOnce(crew, shifts));
}

/** Counts the crew on duty when somebody asks for it. The crew office is far away, and answers slowly. */
export function keepRoster(switches: FaultSwitches): void {
  byId('crew-roster').addEventListener('click', function onCrewRoster() {
    byId('crew-figure').textContent = 'asking the crew office…';
    void (switches.isMended('crew-roster') ? showTogether() : showInARow());
  });
}
