import { ours } from './wrap/ours';

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
    const now = performance.now();
    if (now > before) smallest = Math.min(smallest, now - before);
    before = now;
  }
}

/** Finds out the step of `performance.now()` in a few short looks. */
export function measureClockStep(): void {
  for (let count = 0; count < LOOKS; count++) setTimeout(ours(look), count * LOOK_EVERY_MS);
}

/** The smallest step of `performance.now()` here, in milliseconds. */
export function clockStep(): number {
  return smallest < Infinity ? Math.round(smallest * 1000) / 1000 : usualStep();
}
