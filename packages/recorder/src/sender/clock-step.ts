import { roundMs } from '@nettle-patch/core';
const LOOKS = 4;
const LOOK_EVERY_MS = 60;
/** How long one look may keep the thread. */
const LOOK_MS = 1.5;

/** Steps engines are known to take in pages that are isolated and in others, until it has been seen. */
const usualStep = () => ((globalThis as { crossOriginIsolated?: boolean }).crossOriginIsolated ? 0.005 : 0.1);

let smallest = Infinity;

function look(): void {
  const untilMs = performance.now() + LOOK_MS;
  let before = performance.now();
  while (before < untilMs) {
    const at = performance.now();
    if (at > before) smallest = Math.min(smallest, at - before);
    before = at;
  }
}

/** Finds out the step of `performance.now()`, which is the page's too, in a few short looks. */
export function measureClockStep(): void {
  for (let count = 0; count < LOOKS; count++) setTimeout(look, count * LOOK_EVERY_MS);
}

/** The smallest step of `performance.now()` here, in milliseconds. */
export function clockStep(): number {
  return smallest < Infinity ? roundMs(smallest) : usualStep();
}
