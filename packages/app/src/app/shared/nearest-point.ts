/** A pointer nearer than this means a point. CSS pixels. */
const NEAR = 10;

/** Of some points on a line, the one that a pointer means; undefined where none is near. @param xOf where a point is */
export function nearestPoint<Point>(
  points: readonly Point[],
  xOf: (point: Point) => number,
  pointerX: number,
): Point | undefined {
  const away = (point: Point) => Math.abs(xOf(point) - pointerX);
  const nearest = [...points].sort((a, b) => away(a) - away(b))[0];
  return nearest === undefined || away(nearest) > NEAR ? undefined : nearest;
}
