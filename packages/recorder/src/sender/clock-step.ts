import { roundMs } from '@nettle-patch/core';
const LOOKS = 4;
const LOOK_EVERY_MS = 60;
/** How long one look may keep the thread. */
const LOOK_MS = 1.5;

/** Steps engines are known to take in pages that are isolated and in others, until it has been seen. */
const usualStep = () => ((globalThis as { crossOriginIsolated?: boolean }).crossOriginIsolated ? 0.005 : 0.1);

let smallest = Infinity;
/** What one reading cost in the look in which it cost least: in the others, something else ran too. */
let leastReadMs = Infinity;

function look(): void {
  const beganMs = performance.now();
  const untilMs = beganMs + LOOK_MS;
  let before = beganMs;
  let reads = 0;
  while (before < untilMs) {
    const at = performance.now();
    reads++;
    if (at > before) smallest = Math.min(smallest, at - before);
    before = at;
  }
  leastReadMs = Math.min(leastReadMs, (before - beganMs) / reads);
}

/** Finds out the step of `performance.now()`, which is the page's too, in a few short looks. */
export function measureClockStep(): void {
  for (let count = 0; count < LOOKS; count++) setTimeout(look, count * LOOK_EVERY_MS);
}

/** The smallest step of `performance.now()` here, in milliseconds. */
export function clockStep(): number {
  return smallest < Infinity ? roundMs(smallest) : usualStep();
}

/** What one reading of the clock costs here, in milliseconds; undefined until it was measured. */
export function clockReading(): number | undefined {
  return leastReadMs < Infinity ? Math.min(1, Number(leastReadMs.toPrecision(3))) : undefined;
}
