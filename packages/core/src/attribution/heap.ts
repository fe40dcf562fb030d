/** A binary heap of numbers: the one that beats all others is on top. */
export class Heap {
  readonly #items: number[] = [];

  constructor(private readonly beats: (a: number, b: number) => boolean) {}

  get top(): number | undefined {
    return this.#items[0];
  }

  push(item: number): void {
    const items = this.#items;
    let at = items.push(item) - 1;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (!this.beats(item, items[parent]!)) break;
      items[at] = items[parent]!;
      at = parent;
    }
    items[at] = item;
  }

  /** Takes the top away. */
  pop(): void {
    const items = this.#items;
    const last = items.pop();
    if (last === undefined || items.length === 0) return;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= items.length) break;
      if (child + 1 < items.length && this.beats(items[child + 1]!, items[child]!)) child++;
      if (!this.beats(items[child]!, last)) break;
      items[at] = items[child]!;
      at = child;
    }
    items[at] = last;
  }
}
