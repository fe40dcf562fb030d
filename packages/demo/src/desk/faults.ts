/** Faults of the desk. Each has a mended version, chosen by the switch on the page or in the address. */
export const FAULTS = {
  'manifest-search': 'Manifest search',
  'deck-drag': 'Deck drag',
  'board-all': 'Board all',
  'departures-poll': 'Departures poll',
  ticker: 'Ticker',
  'tide-chart': 'Tide chart',
  'deck-log': 'Deck log',
  'start-up': 'Start-up',
  'crew-roster': 'Crew roster',
} as const;

export type Fault = keyof typeof FAULTS;

const PARAMETER = 'mended';

/** The faults mended by the address: `?mended=board-all,deck-drag` or `?mended=all`. */
export function mendedIn(search: string): Set<Fault> {
  const given = (new URLSearchParams(search).get(PARAMETER) ?? '').split(',');
  const all = Object.keys(FAULTS) as Fault[];
  return new Set(given.includes('all') ? all : all.filter((fault) => given.includes(fault)));
}

/** The address's query with these faults mended. */
export function searchWith(mended: ReadonlySet<Fault>): string {
  return mended.size === 0 ? '' : `?${PARAMETER}=${[...mended].join(',')}`;
}

/** Which faults are mended at the moment. */
export class FaultSwitches {
  readonly #mended = mendedIn(location.search);
  readonly #listeners: (() => void)[] = [];

  isMended(fault: Fault): boolean {
    return this.#mended.has(fault);
  }

  set(fault: Fault, mended: boolean): void {
    if (mended) this.#mended.add(fault);
    else this.#mended.delete(fault);
    history.replaceState(null, '', `${location.pathname}${searchWith(this.#mended)}`);
    for (const listener of this.#listeners) listener();
  }

  /** @param listener is called after every change of a switch */
  onChange(listener: () => void): void {
    this.#listeners.push(listener);
  }
}
