const STEPS = 5;
const LONGEST_LOOK_MS = 4;

/** The smallest step of `performance.now()` here, in milliseconds: 0.1 in an ordinary page of most engines. */
export function measureClockStep(): number {
  const untilMs = performance.now() + LONGEST_LOOK_MS;
  let smallest = Infinity;
  let before = performance.now();
  for (let steps = 0; steps < STEPS;) {
    const now = performance.now();
    if (now > untilMs) break;
    if (now === before) continue;
    smallest = Math.min(smallest, now - before);
    before = now;
    steps++;
  }
  return Number.isFinite(smallest) ? Math.round(smallest * 1000) / 1000 : 1;
}
