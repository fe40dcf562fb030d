import type { Sort } from '@angular/material/sort';
import { compared } from '@nettle-patch/core';

/** What rows of a table are ordered by, by the name of the column. */
export type ColumnValues<Row> = Readonly<Record<string, (row: Row) => number | string>>;

/** Rows in the order of a column; as they were where it has none of that name, or no direction. */
export function sortedRows<Row>(
  rows: readonly Row[],
  columns: ColumnValues<Row>,
  { active, direction }: Sort,
): readonly Row[] {
  const valueOf = Object.hasOwn(columns, active) ? columns[active] : undefined;
  if (valueOf === undefined || direction === '') return rows;
  const sign = direction === 'desc' ? -1 : 1;
  return [...rows].sort((a, b) => sign * compared(valueOf(a), valueOf(b)));
}
