import { ours } from './wrap/ours';

const FRAMES = 12;
/** Place of the gap that counts among all of them: not the very shortest, which may be a slip of the clock. */
const SHORT = 2;
const USUAL_MS = 1000 / 60;

let refreshMs = USUAL_MS;

/** The display's refresh interval, 16.7 ms unless it has been measured. */
export function refreshInterval(): number {
  return Math.round(refreshMs * 100) / 100;
}

/**
 * Measures the interval once, over a few frames. Frames come at whole intervals, and late where the page is busy: a
 * short gap tells more than a long one. A hidden page draws none and is left alone.
 */
export function measureRefresh(): void {
  const gaps: number[] = [];
  let before: number | undefined;
  const step = ours((now: number) => {
    if (before !== undefined) gaps.push(now - before);
    before = now;
    if (gaps.length < FRAMES) requestAnimationFrame(step);
    else refreshMs = gaps.sort((a, b) => a - b)[SHORT]! || USUAL_MS;
  });
  requestAnimationFrame(step);
}
