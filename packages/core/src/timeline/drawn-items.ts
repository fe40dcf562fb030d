import { copyInto } from '../recording/typed-arrays';

const INITIAL_CAPACITY = 512;
/** An item narrower than this has no room for words. Pixels. */
const MIN_WORDS = 24;

/** Things to be drawn, as columns of equal length that can be handed between threads. */
export interface DrawnItems {
  readonly count: number;
  readonly startsMs: Float64Array;
  readonly endsMs: Float64Array;
  /** Row within the lane, from 0. */
  readonly rows: Uint16Array;
  /** Places in ITEM_STYLES. */
  readonly styles: Uint8Array;
  /** How much of it is filled, or how high it stands, 0 to 255. */
  readonly filled: Uint8Array;
  /** What it is, as the lane numbers its items; of many in one pixel, the first. */
  readonly refs: Int32Array;
  /** Places in `texts`, or -1. */
  readonly words: Int32Array;
  readonly texts: readonly string[];
}

/** One item to be drawn. */
export interface DrawnItem {
  readonly startMs: number;
  readonly endMs: number;
  readonly row: number;
  readonly style: number;
  readonly filled: number;
  readonly ref: number;
}

/** Collects items to be drawn in a range of so many pixels. */
export class DrawnWriter {
  readonly pixelMs: number;
  #startsMs = new Float64Array(INITIAL_CAPACITY);
  #endsMs = new Float64Array(INITIAL_CAPACITY);
  #rows = new Uint16Array(INITIAL_CAPACITY);
  #styles = new Uint8Array(INITIAL_CAPACITY);
  #filled = new Uint8Array(INITIAL_CAPACITY);
  #refs = new Int32Array(INITIAL_CAPACITY);
  #words = new Int32Array(INITIAL_CAPACITY);
  readonly #texts: string[] = [];
  readonly #textIds = new Map<number, number>();
  #count = 0;

  /**
   * @param words what an item is called, by its ref; asked once for each key
   * @param keyOf items with the same key have the same words
   */
  constructor(
    readonly range: { readonly startMs: number; readonly endMs: number },
    readonly pixels: number,
    private readonly words: (ref: number) => string,
    private readonly keyOf: (ref: number) => number = (ref) => ref,
  ) {
    this.pixelMs = (range.endMs - range.startMs) / pixels;
  }

  push({ startMs, endMs, row, style, filled, ref }: DrawnItem): void {
    if (this.#count === this.#startsMs.length) this.#grow();
    const at = this.#count++;
    this.#startsMs[at] = startMs;
    this.#endsMs[at] = endMs;
    this.#rows[at] = row;
    this.#styles[at] = style;
    this.#filled[at] = filled;
    this.#refs[at] = ref;
    const { startMs: fromMs, endMs: toMs } = this.range;
    const shownMs = Math.min(endMs, toMs) - Math.max(startMs, fromMs);
    this.#words[at] = shownMs >= this.pixelMs * MIN_WORDS ? this.#textOf(ref) : -1;
  }

  /** The items so far. */
  items(): DrawnItems {
    const count = this.#count;
    return {
      count,
      startsMs: this.#startsMs.slice(0, count),
      endsMs: this.#endsMs.slice(0, count),
      rows: this.#rows.slice(0, count),
      styles: this.#styles.slice(0, count),
      filled: this.#filled.slice(0, count),
      refs: this.#refs.slice(0, count),
      words: this.#words.slice(0, count),
      texts: this.#texts,
    };
  }

  #textOf(ref: number): number {
    const key = this.keyOf(ref);
    let id = this.#textIds.get(key);
    if (id === undefined) {
      const text = this.words(ref);
      id = text === '' ? -1 : this.#texts.push(text) - 1;
      this.#textIds.set(key, id);
    }
    return id;
  }

  #grow(): void {
    const capacity = this.#startsMs.length * 2;
    this.#startsMs = copyInto(new Float64Array(capacity), this.#startsMs);
    this.#endsMs = copyInto(new Float64Array(capacity), this.#endsMs);
    this.#rows = copyInto(new Uint16Array(capacity), this.#rows);
    this.#styles = copyInto(new Uint8Array(capacity), this.#styles);
    this.#filled = copyInto(new Uint8Array(capacity), this.#filled);
    this.#refs = copyInto(new Int32Array(capacity), this.#refs);
    this.#words = copyInto(new Int32Array(capacity), this.#words);
  }
}
