import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxAt, boxByKey, type RowBox } from './box-rows';

/** Boxes that lie in each other as calls do: each is cut into some parts, or has nothing inside it. */
const nested = fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 1, maxLength: 30 }).map((parts) => {
  const boxes: RowBox[] = [{ depth: 0, left: 0, width: 1 }];
  parts.forEach((count, at) => {
    const outer = boxes[at];
    if (outer === undefined) return;
    const width = outer.width / Math.max(1, count);
    for (let part = 0; part < count; part++) {
      boxes.push({ depth: outer.depth + 1, left: outer.left + part * width, width });
    }
  });
  return boxes;
});

describe('boxes in rows', () => {
  it('are found at their middle', () => {
    fc.assert(
      fc.property(nested, (boxes) => {
        for (const box of boxes) expect(boxAt(boxes, box.left + box.width / 2, box.depth)).toBe(box);
        expect(boxAt(boxes, 1.5, 0)).toBeUndefined();
      }),
    );
  });

  it('are all reached by arrow keys, and back', () => {
    fc.assert(
      fc.property(nested, (boxes) => {
        const reached = new Set([boxes[0]!]);
        for (const box of reached) {
          for (const key of ['ArrowDown', 'ArrowRight']) reached.add(boxByKey(boxes, box, key)!);
        }
        expect(reached.size).toBe(boxes.length);
        for (const box of boxes) {
          const right = boxByKey(boxes, box, 'ArrowRight')!;
          if (right !== box) expect(boxByKey(boxes, right, 'ArrowLeft')).toBe(box);
          const inside = boxByKey(boxes, box, 'ArrowDown')!;
          if (inside !== box) expect(boxByKey(boxes, inside, 'ArrowUp')).toBe(box);
        }
      }),
    );
  });

  it('leave other keys alone', () => {
    const box = { depth: 0, left: 0, width: 1 };
    expect(boxByKey([box], box, 'Enter')).toBeUndefined();
    expect(boxByKey([box], box, 'ArrowUp')).toBe(box);
  });
});
