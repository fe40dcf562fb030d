/** A seeded generator of numbers from 0 up to 1 (mulberry32), so that every run has the same passengers. */
export function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

export function pick<T>(random: () => number, from: readonly T[]): T {
  return from[Math.floor(random() * from.length)]!;
}

export function between(random: () => number, low: number, high: number): number {
  return Math.round(low + random() * (high - low));
}
