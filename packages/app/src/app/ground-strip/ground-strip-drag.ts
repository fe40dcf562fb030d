import type { TimeRange } from '@nettle-patch/core';
import type { TimeScale } from '../shared/time-scale';

/** Movement below this is a click. */
const CLICK_PIXELS = 4;
const EDGE_PIXELS = 6;

/** A drag along the ground strip: from anywhere it sets a range, from an edge it moves that edge. */
export class GroundStripDrag {
  #fromX: number | undefined;
  /** The end of the range that stays where it is. */
  #anchorMs = 0;

  begin(x: number, scale: TimeScale, range: TimeRange | undefined): void {
    this.#fromX = x;
    this.#anchorMs = scale.ms(x);
    if (range === undefined) return;
    if (Math.abs(x - scale.x(range.startMs)) <= EDGE_PIXELS) this.#anchorMs = range.endMs;
    else if (Math.abs(x - scale.x(range.endMs)) <= EDGE_PIXELS) this.#anchorMs = range.startMs;
  }

  /** The range as it would be if the drag ended here; undefined while it is no drag. */
  move(x: number, scale: TimeScale): TimeRange | undefined {
    if (this.#fromX === undefined || Math.abs(x - this.#fromX) < CLICK_PIXELS) return undefined;
    const ms = scale.ms(x);
    return { startMs: Math.min(ms, this.#anchorMs), endMs: Math.max(ms, this.#anchorMs) };
  }

  end(x: number, scale: TimeScale): TimeRange | undefined {
    const range = this.move(x, scale);
    this.#fromX = undefined;
    return range;
  }
}
