import { PORTS } from './places';
import { between, pick, seededRandom } from './random';

export interface Passenger {
  readonly reference: string;
  readonly name: string;
  readonly port: string;
  readonly seat: string;
  readonly vehicle: string;
}

const GIVEN = [
  'Åsa',
  'Brónach',
  'Céline',
  'Dóra',
  'Éilís',
  'Finn',
  'Gísli',
  'Håkon',
  'Ína',
  'Jørn',
  'Kåre',
  'Léa',
  'Máiri',
  'Njál',
  'Órla',
  'Pål',
  'Ragna',
  'Sìne',
  'Tóra',
  'Úna',
  'Véla',
  'Wenna',
  'Ylva',
  'Zoë',
];
const MIDDLE = ['', '', '', 'Bræ', 'van Tang', 'ó Skarr', 'Lùn', 'af Hól', 'Mær'];
const FAMILY = [
  'Skerrison',
  'Tangård',
  'Brinsö',
  'Håvelock',
  'Saltvík',
  'Mörrick',
  'Eastrén',
  'Holmåsen',
  'Kelpie',
  'Strandé',
  'Garthé',
  'Wråk',
  'Noup',
  'Geodén',
  'Fløde',
  'Stackå',
];

/** The passengers booked today; the same for the same seed. */
export function generatePassengers(count: number, seed = 1240): Passenger[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, index) => {
    const names = [pick(random, GIVEN), pick(random, MIDDLE), pick(random, FAMILY)];
    return {
      reference: `SK${String(10_000 + index)}`,
      name: names.filter((name) => name !== '').join(' '),
      port: pick(random, PORTS),
      seat: `${between(random, 1, 60)}${pick(random, ['A', 'B', 'C', 'D'])}`,
      vehicle: random() < 0.4 ? `${pick(random, ['KT', 'SL', 'BR'])}${between(random, 100, 999)}` : '',
    };
  });
}
