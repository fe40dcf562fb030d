import type { RowContent } from '../format/rows';

/** A script that ran in the target. */
export type Source = RowContent<'source'>;
