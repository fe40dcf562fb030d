import { byId } from './dom';
import { FAULTS, type Fault, type FaultSwitches } from './faults';

/** Draws a switch for each fault. A switch that is on means the mended version runs. */
export function drawSwitches(switches: FaultSwitches): void {
  const list = byId('workings-list');
  for (const fault of Object.keys(FAULTS) as Fault[]) {
    const label = document.createElement('label');
    const box = document.createElement('input');
    box.type = 'checkbox';
    box.id = `mend-${fault}`;
    box.checked = switches.isMended(fault);
    box.addEventListener('change', () => switches.set(fault, box.checked));
    label.append(box, FAULTS[fault]);
    list.append(label);
  }
}
