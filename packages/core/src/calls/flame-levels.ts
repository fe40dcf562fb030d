/**
 * Lays the boxes of a flame graph level by level, so that no depth is too great. Boxes narrower than the least are left
 * out with all below them.
 * @param widthOf width of a box as a share of the whole
 * @param least smallest width
 * @param below what stands under a box, in its order
 * @param place is called for each box, with its left edge as a share of the whole and its depth from 0
 */
export function layLevels<Item>(
  top: readonly Item[],
  widthOf: (item: Item) => number,
  least: number,
  below: (item: Item) => readonly Item[],
  place: (item: Item, left: number, width: number, depth: number) => void,
): void {
  let groups: readonly (readonly [items: readonly Item[], left: number])[] = [[top, 0]];
  for (let depth = 0; groups.length > 0; depth++) {
    const next: (readonly [readonly Item[], number])[] = [];
    for (const [items, left] of groups) {
      let at = left;
      for (const item of items) {
        const width = widthOf(item);
        if (width >= least) {
          place(item, at, width, depth);
          next.push([below(item), at]);
        }
        at += width;
      }
    }
    groups = next;
  }
}
