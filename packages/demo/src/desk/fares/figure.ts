import { byId } from '../dom';
import type { FaultSwitches } from '../faults';
import { firstFare } from './table';

/** Shows the lowest fare; the mended version does not read the whole table for it at the start. */
export function showFare(switches: FaultSwitches): void {
  const fares = globalThis.faresAtStart;
  const lowest =
    fares === undefined || switches.isMended('start-up')
      ? firstFare(globalThis.faresTable)
      : Math.min(...fares.values());
  byId('fare-figure').textContent = `Fares from ${lowest.toFixed(2)} crowns`;
}
