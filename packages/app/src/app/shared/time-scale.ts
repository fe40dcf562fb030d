/** Maps a stretch of time onto a stretch of pixels. */
export class TimeScale {
  constructor(
    readonly startMs: number,
    readonly endMs: number,
    readonly left: number,
    readonly right: number,
  ) {}

  get pixelsPerMs(): number {
    return (this.right - this.left) / Math.max(1e-9, this.endMs - this.startMs);
  }

  x(ms: number): number {
    return this.left + (ms - this.startMs) * this.pixelsPerMs;
  }

  ms(x: number): number {
    const ms = this.startMs + (x - this.left) / this.pixelsPerMs;
    return Math.min(this.endMs, Math.max(this.startMs, ms));
  }
}

const STEPS = [1, 2, 5];

/**
 * A round distance for the marks of an axis: 1, 2 or 5 times a power of ten. Milliseconds.
 * @param least least distance between two marks, in pixels
 */
export function axisStep(scale: TimeScale, least: number): number {
  const leastMs = least / scale.pixelsPerMs;
  const power = 10 ** Math.floor(Math.log10(leastMs));
  return power * (STEPS.find((factor) => factor * power >= leastMs) ?? 10);
}

/** Places of the marks of an axis that begins where the scale does, as offsets in milliseconds. */
export function axisTicks(scale: TimeScale, least: number): number[] {
  const step = axisStep(scale, least);
  const lengthMs = scale.endMs - scale.startMs;
  return Array.from({ length: Math.floor(lengthMs / step) + 1 }, (_, index) => index * step);
}
