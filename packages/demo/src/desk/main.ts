import type { Passenger } from '../data/passengers';
import type { Vehicle } from '../data/vehicles';
import { keepDepartures } from './board/poll';
import { keepRoster } from './board/roster';
import { keepDeck } from './deck/deck';
import { keepDeckLog } from './deck/log';
import { byId } from './dom';
import { FaultSwitches } from './faults';
import { load } from './load';
import { showFare } from './fares/figure';
import { keepManifest } from './manifest/manifest';
import { moveNotices } from './notices/ticker';
import { drawSwitches } from './switches';
import { keepTideChart } from './tide/tide-chart';

async function openDesk(): Promise<void> {
  const switches = new FaultSwitches();
  drawSwitches(switches);
  moveNotices(switches);
  keepTideChart(switches);
  showFare(switches);
  keepRoster(switches);
  const [passengers, vehicles] = await Promise.all([
    load<Passenger[]>('/api/passengers'),
    load<Vehicle[]>('/api/vehicles'),
  ]);
  keepManifest(passengers, switches);
  keepDeck(vehicles, switches, keepDeckLog(switches));
  await keepDepartures(switches);
  byId('desk').dataset['ready'] = 'true';
}

openDesk().catch((error: Error) => {
  byId('notice').textContent = `The desk could not be opened: ${error.message}. Load the page again.`;
});
