import type { FaultSwitches } from '../faults';
import { drawBoard, parseDepartures } from './departures';

const POLL_MS = 4000;

let shownVersion = 0;

async function loadDepartures(): Promise<void> {
  const answer = await fetch('/api/departures');
  const departures = parseDepartures(await answer.text());
  shownVersion = departures.version;
  drawBoard(departures);
}

/** Asks for the whole timetable, parses it and draws the board anew, whether or not anything changed. */
async function pollDepartures(): Promise<void> {
  await loadDepartures();
}

/** Asks only for the version, and for the timetable only when it changed. */
async function pollVersion(): Promise<void> {
  const answer = await fetch('/api/departures/version');
  const { version } = (await answer.json()) as { version: number };
  if (version !== shownVersion) await loadDepartures();
}

/** Shows the departures and keeps them up to date. */
export async function keepDepartures(switches: FaultSwitches): Promise<void> {
  await loadDepartures();
  setInterval(() => {
    void (switches.isMended('departures-poll') ? pollVersion() : pollDepartures());
  }, POLL_MS);
}
