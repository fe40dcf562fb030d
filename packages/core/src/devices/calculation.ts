const ROUNDS = 24;
const STEPS = 60_000;

interface Point {
  x: number;
  y: number;
  next: Point | undefined;
}

/** A fixed mix of what scripts do: whole numbers, fractions, objects, arrays, texts and calls. */
function calculate(): number {
  const points: Point[] = [];
  const words = new Map<string, number>();
  let whole = 7;
  let sum = 0;
  for (let step = 0; step < STEPS; step++) {
    whole = (Math.imul(whole, 1_103_515_245) + 12_345) & 0x7fff_ffff;
    const point: Point = { x: whole % 997, y: Math.sqrt(whole), next: points[step >> 1] };
    if (step % 8 === 0) points.push(point);
    sum += point.y * 0.5 + (point.next?.x ?? 0);
    if (step % 16 === 0) {
      const word = `quay ${whole % 211}`;
      words.set(word, (words.get(word) ?? 0) + word.length);
    }
  }
  points.sort((a, b) => a.x - b.x || a.y - b.y);
  return sum + points[points.length >> 1]!.y + words.size;
}

/**
 * How long a set calculation takes on this device, at its best of a few times: it says how quick script is here, and
 * its ratio to that of another device how much slower one is. Milliseconds. Takes some thirty times as long itself, so
 * it is for a thread that nobody waits for.
 * @param now a clock, in milliseconds
 */
export function measureCalculation(now: () => number): number {
  let best = Infinity;
  let checked = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const startMs = now();
    checked += calculate();
    best = Math.min(best, now() - startMs);
  }
  return checked > 0 ? Math.max(best, 0.01) : Infinity;
}

/** How much slower a device is than another, by what the calculation took on each. 1 for the same. */
export function slowerBy(thereMs: number, hereMs: number): number {
  return Math.round((thereMs / hereMs) * 100) / 100;
}
