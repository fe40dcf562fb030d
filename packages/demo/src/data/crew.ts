import { PORTS, VESSELS } from './places';
import { between, pick, seededRandom } from './random';

export interface Deckhand {
  readonly id: number;
  readonly name: string;
  readonly vessel: string;
}

export interface Shift {
  readonly deckhand: number;
  readonly quay: string;
  /** Hour of the day. */
  readonly from: number;
}

const NAMES = ['Ragna', 'Njál', 'Máiri', 'Kåre', 'Órla', 'Finn', 'Ína', 'Jørn', 'Léa', 'Pål'];

/** The crew of all vessels; the same for the same seed. */
export function generateCrew(count: number, seed = 41): Deckhand[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, id) => ({
    id,
    name: `${pick(random, NAMES)} ${between(random, 10, 99)}`,
    vessel: pick(random, VESSELS),
  }));
}

/** Their shifts of the season, in no order. */
export function generateShifts(count: number, crew: number, seed = 43): Shift[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, () => ({
    deckhand: between(random, 0, crew - 1),
    quay: pick(random, PORTS),
    from: between(random, 5, 21),
  }));
}
