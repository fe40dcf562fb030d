import type { Sailing } from '../../data/sailings';
import { byId, make } from '../dom';

const SHOWN = 16;

interface Departures {
  readonly version: number;
  readonly sailings: readonly Sailing[];
}

/** Reads the answer and counts, for every sailing, the calls that have something noted. */
export function parseDepartures(text: string): Departures & { noted: number } {
  const departures = JSON.parse(text) as Departures;
  let noted = 0;
  for (const sailing of departures.sailings) {
    for (const call of sailing.calls) if (call.notes.some((note) => note.startsWith('swell'))) noted++;
  }
  return { ...departures, noted };
}

function drawSailing(sailing: Sailing): HTMLElement {
  const row = make('tr', `sailing ${sailing.status.replace(' ', '-')}`);
  row.append(
    make('td', 'time', sailing.departs),
    make('td', 'to', sailing.to),
    make('td', 'vessel', sailing.vessel),
    make('td', 'gate', String(sailing.gate)),
    make('td', 'status', sailing.status),
  );
  return row;
}

/** Draws the next departures, row by row. */
export function drawBoard(departures: Departures & { noted: number }): void {
  const rows = departures.sailings.slice(0, SHOWN).map(drawSailing);
  byId('departures-rows').replaceChildren(...rows);
  byId('departures-noted').textContent = `${departures.noted.toLocaleString('en')} berth notes today`;
}
