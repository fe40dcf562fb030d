import { PORTS, VESSELS } from './places';
import { between, pick, seededRandom } from './random';

export interface Call {
  readonly port: string;
  readonly due: string;
  readonly berth: number;
  readonly notes: readonly string[];
}

export interface Sailing {
  readonly id: string;
  readonly departs: string;
  readonly to: string;
  readonly vessel: string;
  readonly gate: number;
  readonly booked: number;
  readonly status: 'on time' | 'boarding' | 'delayed' | 'gate closed';
  readonly calls: readonly Call[];
}

const NOTES = [
  'swell at the berth',
  'ramp inspected',
  'crew change',
  'fresh water taken',
  'mail on board',
  'slack tide',
];

function clock(minutes: number): string {
  const hours = Math.floor(minutes / 60) % 24;
  return `${String(hours).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
}

/**
 * The timetable with its log, oldest first.
 * @param count sailings in all; the board shows only the next few, the answer carries them all
 */
export function generateSailings(count: number, seed = 7): Sailing[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, index) => {
    const departs = 12 * 60 + 40 + index * 25;
    const calls = Array.from({ length: between(random, 6, 12) }, (_call, stop) => ({
      port: pick(random, PORTS),
      due: clock(departs + 35 * (stop + 1)),
      berth: between(random, 1, 4),
      notes: Array.from({ length: 4 }, () => pick(random, NOTES)),
    }));
    return {
      id: `S${index + 1}`,
      departs: clock(departs),
      to: index === 0 ? 'Holm' : pick(random, PORTS),
      vessel: pick(random, VESSELS),
      gate: between(random, 1, 4),
      booked: between(random, 20, 380),
      status: index === 0 ? 'boarding' : pick(random, ['on time', 'on time', 'on time', 'delayed'] as const),
      calls,
    };
  });
}
