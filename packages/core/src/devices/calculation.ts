/**
 * How long a set calculation takes on this device, once for each of some rounds: a fixed mix of what scripts do, whole
 * numbers, fractions, objects, arrays, texts and calls. Milliseconds. Takes long, so it is for a thread that nobody
 * waits for. It refers to nothing outside of itself, so that its text can be run in a page of another browser.
 * @param now a clock, in milliseconds
 */
export function calculationTimes(now: () => number, rounds: number): number[] {
  const steps = 60_000;
  interface Point {
    x: number;
    y: number;
    next: Point | undefined;
  }
  const calculate = (): number => {
    const points: Point[] = [];
    const words = new Map<string, number>();
    let whole = 7;
    let sum = 0;
    for (let step = 0; step < steps; step++) {
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
  };
  let checked = 0;
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const startMs = now();
    checked += calculate();
    times.push(now() - startMs);
  }
  return checked > 0 ? times : times.map(() => Infinity);
}

const ROUNDS = 24;

/**
 * How long the calculation takes at its best of a few times: it says how quick script is here, and its ratio to that of
 * another device how much slower one is. Milliseconds.
 * @param now a clock, in milliseconds
 */
export function measureCalculation(now: () => number): number {
  return Math.max(Math.min(...calculationTimes(now, ROUNDS)), 0.01);
}

/** How much slower a device is than another, by what the calculation took on each. 1 for the same. */
export function slowerBy(thereMs: number, hereMs: number): number {
  return Math.round((thereMs / hereMs) * 100) / 100;
}
