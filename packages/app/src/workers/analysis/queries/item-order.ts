/** Columns of a table of things that its lines can be put in order of. */
export const ITEM_COLUMNS = ['startMs', 'lengthMs', 'words'] as const;

export interface ItemOrder {
  readonly column: (typeof ITEM_COLUMNS)[number];
  readonly isDescending: boolean;
}
