/** A box among others in rows, those inside it in the row below; left edge and width are shares of the whole. */
export interface RowBox {
  readonly depth: number;
  readonly left: number;
  readonly width: number;
}

/** What rounding may do to an edge. */
const EDGE = 1e-9;

/** The box at a place. @param share of the width, 0 to 1 */
export function boxAt<Box extends RowBox>(
  boxes: readonly Box[],
  share: number,
  depth: number,
): Box | undefined {
  return boxes.find((box) => box.depth === depth && share >= box.left && share < box.left + box.width);
}

/**
 * Where an arrow key leads from a box: along its row, to the first inside it, to the one around it.
 * @returns the box itself where there is none; undefined for any other key
 */
export function boxByKey<Box extends RowBox>(
  boxes: readonly Box[],
  current: Box,
  key: string,
): Box | undefined {
  const level = (depth: number) => boxes.filter((box) => box.depth === depth);
  const isInside = (box: Box, outer: Box) =>
    box.left >= outer.left - EDGE && box.left < outer.left + outer.width - EDGE;
  const row = level(current.depth);
  const at = row.indexOf(current);
  switch (key) {
    case 'ArrowDown':
      return level(current.depth + 1).find((box) => isInside(box, current)) ?? current;
    case 'ArrowUp':
      return level(current.depth - 1).find((box) => isInside(current, box)) ?? current;
    case 'ArrowRight':
      return row[at + 1] ?? current;
    case 'ArrowLeft':
      return row[at - 1] ?? current;
    default:
      return undefined;
  }
}
