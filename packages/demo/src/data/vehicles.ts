import { between, pick, seededRandom } from './random';

export type VehicleKind = 'car' | 'van' | 'lorry' | 'caravan';

export interface Vehicle {
  readonly id: number;
  readonly plate: string;
  readonly kind: VehicleKind;
  /** Metres. */
  readonly length: number;
  /** Tonnes. */
  readonly weight: number;
}

const KINDS: readonly { kind: VehicleKind; length: number; weight: readonly [number, number] }[] = [
  { kind: 'car', length: 4.5, weight: [1.1, 2.2] },
  { kind: 'car', length: 4.5, weight: [1.1, 2.2] },
  { kind: 'car', length: 4.5, weight: [1.1, 2.2] },
  { kind: 'van', length: 5.5, weight: [2, 3.5] },
  { kind: 'caravan', length: 8, weight: [2.4, 3.2] },
  { kind: 'lorry', length: 10, weight: [9, 26] },
];

/** The vehicles waiting on the quay; the same for the same seed. */
export function generateVehicles(count: number, seed = 300): Vehicle[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, id) => {
    const { kind, length, weight } = pick(random, KINDS);
    const tonnes = weight[0] + random() * (weight[1] - weight[0]);
    const plate = `${pick(random, ['KT', 'SL', 'BR'])}${between(random, 100, 999)}`;
    return { id, plate, kind, length, weight: Math.round(tonnes * 10) / 10 };
  });
}
