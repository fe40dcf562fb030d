import { compared } from '@nettle-patch/core';

/** Columns of a table of calls that its rows can be put in order of. */
export const CALL_COLUMNS = ['selfMs', 'totalMs', 'count', 'callsPerSecond', 'name', 'place'] as const;
export type CallColumn = (typeof CALL_COLUMNS)[number];

/** The order of a table of calls. */
export interface CallSort {
  readonly column: CallColumn;
  readonly isDescending: boolean;
}

/** What a row must have to be put in order: how deep it stands in its tree, and its columns. */
export interface SortableRow {
  readonly depth: number;
  readonly selfMs: number;
  readonly totalMs: number;
  readonly count: number;
  readonly callsPerSecond: number;
  readonly name: string;
  readonly place: string;
}

interface Branch<Row> {
  readonly row: Row;
  readonly below: Branch<Row>[];
}

/** Rows of a tree, each with the rows below it, put in order of a column on every level. */
export function sortRows<Row extends SortableRow>(
  rows: readonly Row[],
  { column, isDescending }: CallSort,
): Row[] {
  const top: Branch<Row>[] = [];
  const open: Branch<Row>[] = [];
  for (const row of rows) {
    open.length = row.depth;
    const branch: Branch<Row> = { row, below: [] };
    (open.at(-1)?.below ?? top).push(branch);
    open.push(branch);
  }
  const sign = isDescending ? -1 : 1;
  const sorted: Row[] = [];
  const write = (branches: Branch<Row>[]): void => {
    branches.sort((a, b) => sign * compared(a.row[column], b.row[column]));
    for (const { row, below } of branches) {
      sorted.push(row);
      write(below);
    }
  };
  write(top);
  return sorted;
}
