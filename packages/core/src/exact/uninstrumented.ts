import type { RowOfKind } from '../format/rows';

/** A script that was not rewritten in exact mode, and why. */
export interface Uninstrumented {
  readonly url: string;
  readonly problem: string;
}

/** Ids of scripts that were left alone, above those any part of the recorder gives. */
const FIRST_ID = 2 ** 24;

/** Rows that name the scripts whose calls an exact recording does not hold. */
export function uninstrumentedRows(scripts: readonly Uninstrumented[]): RowOfKind<'source'>[] {
  return scripts.map(({ url, problem }, index) => ({ kind: 'source', id: FIRST_ID + index, url, problem }));
}
