import type { CallRow } from '../../workers/analysis/queries/call-queries';

export type CallColumn = 'selfMs' | 'totalMs' | 'count' | 'callsPerSecond';

interface Branch {
  readonly row: CallRow;
  readonly below: Branch[];
}

/** Rows of a tree, each with the rows below it, put in order of a column on every level; the largest first. */
export function sortRows(rows: readonly CallRow[], column: CallColumn): CallRow[] {
  const top: Branch[] = [];
  const open: Branch[] = [];
  for (const row of rows) {
    open.length = row.depth;
    const branch: Branch = { row, below: [] };
    (open.at(-1)?.below ?? top).push(branch);
    open.push(branch);
  }
  const sorted: CallRow[] = [];
  const write = (branches: Branch[]): void => {
    branches.sort((a, b) => b.row[column] - a.row[column]);
    for (const { row, below } of branches) {
      sorted.push(row);
      write(below);
    }
  };
  write(top);
  return sorted;
}
