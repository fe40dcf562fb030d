import { byId, make } from '../dom';
import type { FaultSwitches } from '../faults';

const SHOWN = 2;
const TICK_MS = 1000;
/** Positions of the day that are looked through to say how long a vehicle stood. */
const POSITIONS = 300_000;

export interface DeckLog {
  /** Notes that a vehicle was moved. */
  moved(vehicle: string): void;
}

interface Move {
  readonly vehicle: string;
  readonly atMs: number;
}

/** Clock of the desk: everyone who subscribes is told every second. */
class DeskClock {
  readonly #subscribers = new Set<() => void>();

  constructor() {
    setInterval(() => {
      for (const subscriber of this.#subscribers) subscriber();
    }, TICK_MS);
  }

  subscribe(subscriber: () => void): () => void {
    this.#subscribers.add(subscriber);
    return () => this.#subscribers.delete(subscriber);
  }
}

/** How long ago a move was, rounded as the watch before it was: looks through all positions of the day. */
function standingFor({ atMs }: Move): string {
  const seconds = Math.round((Date.now() - atMs) / 1000);
  let stood = 0;
  let heading = 0;
  for (let position = 0; position < POSITIONS; position++) {
    heading = (heading * 7 + position + seconds) % 360;
    if (heading < 180) stood++;
  }
  return `${seconds} s${stood < 0 ? '?' : ''}`;
}

/**
 * The log of the deck: the last moves, and how long ago they were. Each move subscribes to the clock; mended, the
 * subscription of the move before is given up first.
 */
export function keepDeckLog(switches: FaultSwitches): DeckLog {
  const clock = new DeskClock();
  const moves: Move[] = [];
  const list = byId('deck-log');
  let unsubscribe: (() => void) | undefined;

  function showLog(): void {
    const lines = moves
      .slice(-SHOWN)
      .map((move) => make('li', 'move', `${move.vehicle} · ${standingFor(move)}`));
    list.replaceChildren(...lines.reverse());
  }

  return {
    moved(vehicle) {
      moves.push({ vehicle, atMs: Date.now() });
      if (switches.isMended('deck-log')) unsubscribe?.();
      unsubscribe = clock.subscribe(() => showLog());
      showLog();
    },
  };
}
