import { expect, it } from 'vitest';
import { readDamaged } from '../testing/damage';
import { mutate } from '../testing/mutate';
import { recordedBytes } from '../testing/recorded';

const MUTATIONS = 500;

it('500 mutations of real files are refused with a message or read with the loss stated', () => {
  const files = ['deck-drag', 'departures-poll', 'board-all'].map(recordedBytes);
  const counts = { refused: 0, told: 0, whole: 0 };
  for (let seed = 1; seed <= MUTATIONS; seed++) {
    const bytes = files[seed % files.length]!;
    const damaged = mutate(bytes, seed);
    const outcome = readDamaged(damaged);
    counts[outcome]++;
    if (outcome === 'whole')
      expect(Buffer.compare(Buffer.from(damaged), Buffer.from(bytes)), `seed ${seed}`).toBe(0);
  }
  expect(counts.refused).toBeGreaterThan(0);
  expect(counts.told).toBeGreaterThan(MUTATIONS / 2);
}, 120_000);
