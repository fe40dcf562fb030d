import { markInternal } from './wrap/internal';
import { requestAnimationFrame } from './natives';

const FRAMES = 12;
/** No display is refreshed more often. */
const MIN_MS = 3;
const USUAL_MS = 1000 / 60;
/** Where every frame was late, nothing is known. */
const MAX_MS = 50;

let refreshMs = USUAL_MS;

/** The display's refresh interval, 16.7 ms unless it has been measured. */
export function refreshInterval(): number {
  return Math.round(refreshMs * 100) / 100;
}

/**
 * Measures the interval once, over a few frames. Frames come at whole intervals, and late where the page is busy: the
 * shortest gap tells. A hidden page draws none and is left alone.
 */
export function measureRefresh(): void {
  const gaps: number[] = [];
  let before: number | undefined;
  const step = markInternal((now: number) => {
    if (before !== undefined) gaps.push(now - before);
    before = now;
    if (gaps.length < FRAMES) requestAnimationFrame(step);
    else refreshMs = Math.min(...gaps.filter((gap) => gap >= MIN_MS), MAX_MS);
  });
  requestAnimationFrame(step);
}
