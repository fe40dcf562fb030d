/** Numbers a block, and blocks a block of blocks: 16. */
const BRANCH_BITS = 4;

/**
 * Finds among numbers those above a limit, in time that depends on how many there are: the largest of each block, of
 * each block of blocks, and so on are kept (a tournament tree; Knuth, The Art of Computer Programming, volume 3,
 * section 5.4.1).
 */
export class MaxTree {
  /** The largest numbers of blocks, of blocks of them, and so on up to one. */
  readonly #levels: Float64Array[] = [];

  constructor(private readonly values: ArrayLike<number>) {
    let below: ArrayLike<number> = values;
    while (below.length > 1) {
      const level = new Float64Array(Math.ceil(below.length / 2 ** BRANCH_BITS)).fill(-Infinity);
      for (let at = 0; at < below.length; at++) {
        const block = at >> BRANCH_BITS;
        if (below[at]! > level[block]!) level[block] = below[at]!;
      }
      this.#levels.push(level);
      below = level;
    }
  }

  /** Visits the indexes before an end whose numbers are above a limit, in ascending order. */
  eachAbove(limit: number, end: number, visit: (index: number) => void): void {
    const top = this.#levels.length;
    const waiting: number[] = [top, 0];
    while (waiting.length > 0) {
      const at = waiting.pop()!;
      const level = waiting.pop()!;
      const most = level === 0 ? this.values[at]! : this.#levels[level - 1]![at]!;
      if (at * 2 ** (BRANCH_BITS * level) >= end || !(most > limit)) continue;
      if (level === 0) {
        visit(at);
        continue;
      }
      const below = level === 1 ? this.values.length : this.#levels[level - 2]!.length;
      const first = at << BRANCH_BITS;
      for (let child = Math.min(below, first + (1 << BRANCH_BITS)) - 1; child >= first; child--) {
        waiting.push(level - 1, child);
      }
    }
  }
}
