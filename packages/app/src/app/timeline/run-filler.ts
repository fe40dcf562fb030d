import type { Fill } from './style-fills';

/** Things narrower than this may be drawn together with their neighbours. Pixels. */
const NARROW = 3;
/** Neighbours closer than this touch. Pixels. */
const TOUCHING = 0.75;
const LEVELS = 4;

/**
 * Fills rectangles one after the other, and many narrow ones of one kind beside each other as one: what is full of
 * them is drawn with few strokes.
 */
export class RunFiller {
  #fill: Fill = '';
  #alpha = 1;
  #left = 0;
  #right = -1;
  #top = 0;
  #tall = 0;

  constructor(private readonly context: CanvasRenderingContext2D) {}

  /** @param alpha 0 to 1; rounded up to a quarter for narrow ones */
  rect(left: number, top: number, width: number, tall: number, fill: Fill, alpha: number): void {
    const isNarrow = width < NARROW;
    const level = isNarrow ? Math.ceil(alpha * LEVELS) / LEVELS : alpha;
    const joins =
      isNarrow &&
      this.#right >= 0 &&
      fill === this.#fill &&
      level === this.#alpha &&
      top === this.#top &&
      tall === this.#tall &&
      left >= this.#left &&
      left - this.#right < TOUCHING;
    if (joins) {
      this.#right = Math.max(this.#right, left + width);
      return;
    }
    this.flush();
    this.#fill = fill;
    this.#alpha = level;
    this.#left = left;
    this.#right = left + width;
    this.#top = top;
    this.#tall = tall;
    if (!isNarrow) this.flush();
  }

  /** Draws what is still held back. */
  flush(): void {
    if (this.#right < 0) return;
    const { context } = this;
    if (context.fillStyle !== this.#fill) context.fillStyle = this.#fill;
    context.globalAlpha = this.#alpha;
    context.fillRect(this.#left, this.#top, this.#right - this.#left, this.#tall);
    context.globalAlpha = 1;
    this.#right = -1;
  }
}
