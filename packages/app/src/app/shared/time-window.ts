import type { TimeRange } from '@nettle-patch/core';

/** The shortest stretch that is shown: a hundredth of a pixel is a clock step of any browser. Milliseconds. */
const MIN_MS = 0.05;

const WHEEL_ZOOM = 1.0015;
/** What a turn of the wheel counts where the browser tells pixels, and where it tells lines. */
const PIXEL_TURN = 2;
const LINE_TURN = 40;

/** By how much a turn of the wheel zooms: above 1 shows more time. */
export function wheelZoom({ deltaY, deltaMode }: Pick<WheelEvent, 'deltaY' | 'deltaMode'>): number {
  return WHEEL_ZOOM ** (deltaY * (deltaMode === 0 ? PIXEL_TURN : LINE_TURN));
}

/** The range between two moments, whichever comes first. */
export const between = (a: number, b: number): TimeRange => ({
  startMs: Math.min(a, b),
  endMs: Math.max(a, b),
});

/** A stretch of a length that lies within the whole, as near to where it is wanted as there is room for it. */
function placed(whole: TimeRange, startMs: number, lengthMs: number): TimeRange {
  const start = Math.max(whole.startMs, Math.min(whole.endMs - lengthMs, startMs));
  return { startMs: start, endMs: start + lengthMs };
}

/** A stretch moved and cut so that it lies within the whole. */
function within(whole: TimeRange, startMs: number, lengthMs: number): TimeRange {
  const allMs = whole.endMs - whole.startMs;
  return placed(whole, startMs, Math.min(allMs, Math.max(Math.min(MIN_MS, allMs), lengthMs)));
}

/** A range moved by so much, as far as there is room for all of it. */
export function moved(whole: TimeRange, { startMs, endMs }: TimeRange, byMs: number): TimeRange {
  return placed(whole, startMs + byMs, endMs - startMs);
}

/**
 * The stretch of time that is shown, zoomed about a moment that stays where it is.
 * @param factor above 1 shows more time
 */
export function zoomed(whole: TimeRange, shown: TimeRange, atMs: number, factor: number): TimeRange {
  const lengthMs = shown.endMs - shown.startMs;
  const allMs = whole.endMs - whole.startMs;
  const nextMs = Math.min(allMs, Math.max(Math.min(MIN_MS, allMs), lengthMs * factor));
  const share = lengthMs === 0 ? 0.5 : (atMs - shown.startMs) / lengthMs;
  return within(whole, atMs - nextMs * share, nextMs);
}

/** The stretch moved by a share of its length. */
export function panned(whole: TimeRange, shown: TimeRange, share: number): TimeRange {
  const lengthMs = shown.endMs - shown.startMs;
  return within(whole, shown.startMs + share * lengthMs, lengthMs);
}

/** A stretch that shows a range with some room around it. */
export function around(whole: TimeRange, range: TimeRange, margin = 0.05): TimeRange {
  const lengthMs = Math.max(MIN_MS, range.endMs - range.startMs);
  return within(whole, range.startMs - margin * lengthMs, lengthMs * (1 + 2 * margin));
}

/** A stretch as wide as now, moved no more than is needed to show a range. */
export function showing(whole: TimeRange, shown: TimeRange, range: TimeRange): TimeRange {
  const lengthMs = shown.endMs - shown.startMs;
  if (range.startMs >= shown.startMs && range.endMs <= shown.endMs) return shown;
  if (range.endMs - range.startMs > lengthMs) return around(whole, range);
  return within(whole, (range.startMs + range.endMs - lengthMs) / 2, lengthMs);
}
