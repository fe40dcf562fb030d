import type { Shape } from '../format/fields';
import { ROW_SHAPES, type Row } from '../format/rows';

/** The same rows, all that happened so much later. */
export function shiftedRows(rows: readonly Row[], byMs: number): Row[] {
  return rows.map((row) => {
    const shape: Shape = ROW_SHAPES[row.kind];
    const moved: Record<string, unknown> = { ...row };
    for (const [name, { type }] of Object.entries(shape)) {
      if (type === 'time' && moved[name] !== undefined) moved[name] = (moved[name] as number) + byMs;
    }
    return moved as unknown as Row;
  });
}
