import type { TimeRange } from '@nettle-patch/core';
import type { TimeScale } from '../shared/time-scale';
import { between, moved } from '../shared/time-window';

/** Movement below this is a click. */
const CLICK_PIXELS = 4;
/** How far beside an end a pointer still takes hold of it: half of a target of 24 pixels. */
const GRIP_PIXELS = 12;

/** What can be taken hold of: the range of the lens, or the window of the Timeline. */
export type StripPart = 'range' | 'window';

/** What stands on the strip when a drag begins. */
export interface StripParts {
  readonly range: TimeRange | undefined;
  readonly window: TimeRange | undefined;
}

/** What a drag makes of one of them. */
export interface StripChange {
  readonly part: StripPart;
  readonly range: TimeRange;
}

/** Where on the strip something is held: an end, the middle, or ground that nothing stands on. */
export type StripHold =
  | { readonly part: StripPart; readonly end: 'start' | 'end' | 'middle'; readonly range: TimeRange }
  | { readonly part: 'range'; readonly end: 'none' };

/**
 * What a pointer would take hold of.
 * @param inBand whether it is in the band along the foot, in which the window is held
 */
export function holdAt(
  x: number,
  inBand: boolean,
  scale: TimeScale,
  { range, window }: StripParts,
): StripHold {
  return (
    (inBand ? holdOf('window', window, x, scale) : undefined) ??
    holdOf('range', range, x, scale) ?? { part: 'range', end: 'none' }
  );
}

function holdOf(
  part: StripPart,
  range: TimeRange | undefined,
  x: number,
  scale: TimeScale,
): StripHold | undefined {
  if (range === undefined) return undefined;
  const [left, right] = [scale.x(range.startMs), scale.x(range.endMs)];
  // Of something narrow the ends are held from outside, so that its middle is left to move it by.
  const within = Math.min(GRIP_PIXELS, (right - left) / 3);
  if (x >= left - GRIP_PIXELS && x < left + within) return { part, end: 'start', range };
  if (x > right - within && x <= right + GRIP_PIXELS) return { part, end: 'end', range };
  return x >= left && x <= right ? { part, end: 'middle', range } : undefined;
}

/** A drag along the ground strip: on empty ground it sets a range, else it moves what it holds, or one of its ends. */
export class GroundStripDrag {
  #held: { readonly x: number; readonly hold: StripHold } | undefined;

  begin(x: number, hold: StripHold): void {
    this.#held = { x, hold };
  }

  /** What the drag makes, if it ended here; undefined while it is no drag. */
  move(x: number, scale: TimeScale): StripChange | undefined {
    if (this.#held === undefined || Math.abs(x - this.#held.x) < CLICK_PIXELS) return undefined;
    const { hold } = this.#held;
    const [fromMs, ms] = [scale.ms(this.#held.x), scale.ms(x)];
    if (hold.end === 'none') return { part: hold.part, range: between(fromMs, ms) };
    const { startMs, endMs } = hold.range;
    if (hold.end === 'start') return { part: hold.part, range: between(ms, endMs) };
    if (hold.end === 'end') return { part: hold.part, range: between(startMs, ms) };
    return { part: hold.part, range: moved({ startMs: 0, endMs: scale.endMs }, hold.range, ms - fromMs) };
  }

  end(x: number, scale: TimeScale): StripChange | undefined {
    const change = this.move(x, scale);
    this.cancel();
    return change;
  }

  /** Lets go without having changed anything. */
  cancel(): void {
    this.#held = undefined;
  }
}
