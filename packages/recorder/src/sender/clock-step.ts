import { roundMs } from '@nettle-patch/core';
const LOOKS = 4;
const LOOK_EVERY_MS = 60;
/** How long one look may keep the thread. */
const LOOK_MS = 1.5;

/** Steps engines are known to take in pages that are isolated and in others, until it has been seen. */
const usualStep = () => ((globalThis as { crossOriginIsolated?: boolean }).crossOriginIsolated ? 0.005 : 0.1);

let smallest = Infinity;
/** How long the looks took in all, and how often the clock was read in them. */
let lookedMs = 0;
let reads = 0;

function look(): void {
  const beganMs = performance.now();
  const untilMs = beganMs + LOOK_MS;
  let before = beganMs;
  while (before < untilMs) {
    const at = performance.now();
    reads++;
    if (at > before) smallest = Math.min(smallest, at - before);
    before = at;
  }
  lookedMs += before - beganMs;
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
  return reads === 0 ? undefined : Math.min(1, Number((lookedMs / reads).toPrecision(3)));
}
