import type { Shape } from './anatomy-layout';

const middle = ({ x, width }: Shape) => x + width / 2;

/**
 * The shape that an arrow key leads to: left and right within its row, up and down to the nearest row that has one
 * near it. Undefined for other keys, and where there is none.
 */
export function shapeByKey(
  shapes: readonly Shape[],
  current: Shape | undefined,
  key: string,
): Shape | undefined {
  if (current === undefined) return key.startsWith('Arrow') ? shapes[0] : undefined;
  const first = <T>(some: readonly T[], by: (one: T) => number) =>
    some.reduce<T | undefined>(
      (best, one) => (best === undefined || by(one) < by(best) ? one : best),
      undefined,
    );
  if (key === 'ArrowLeft' || key === 'ArrowRight') {
    const sign = key === 'ArrowLeft' ? -1 : 1;
    const beyond = shapes.filter(({ x, y }) => y === current.y && (x - current.x) * sign > 0);
    return first(beyond, ({ x }) => (x - current.x) * sign);
  }
  if (key !== 'ArrowUp' && key !== 'ArrowDown') return undefined;
  const sign = key === 'ArrowUp' ? -1 : 1;
  const rows = shapes.filter(({ y }) => (y - current.y) * sign > 0);
  const nearest = first(rows, ({ y }) => (y - current.y) * sign);
  const inRow = rows.filter(({ y }) => y === nearest?.y);
  return first(inRow, (one) => Math.abs(middle(one) - middle(current)));
}
