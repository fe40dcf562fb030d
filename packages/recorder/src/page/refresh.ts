import { ours } from './wrap/ours';

const FRAMES = 12;
const USUAL_MS = 1000 / 60;

let refreshMs = USUAL_MS;

/** The display's refresh interval, 16.7 ms unless it has been measured. */
export function refreshInterval(): number {
  return Math.round(refreshMs * 100) / 100;
}

/** Measures the interval once, over a few frames, with the median. A hidden page draws none and is left alone. */
export function measureRefresh(): void {
  const gaps: number[] = [];
  let before: number | undefined;
  const step = ours((now: number) => {
    if (before !== undefined) gaps.push(now - before);
    before = now;
    if (gaps.length < FRAMES) requestAnimationFrame(step);
    else refreshMs = gaps.sort((a, b) => a - b)[FRAMES / 2]! || USUAL_MS;
  });
  requestAnimationFrame(step);
}
