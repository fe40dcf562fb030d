import type { Recording } from './recording';

export type RedrawColumns = Recording['events']['redraw']['columns'];

/** Whether all changes of a redraw were looked at. Where some were not, what they did is unknown. */
const isWhole = ({ more }: RedrawColumns, at: number): boolean => !(more[at]! > 0);

/** Whether a redraw is known to have written nothing but what was there before. @param at index among the redraws */
export const isUnchanged = (columns: RedrawColumns, at: number): boolean =>
  columns.changed[at] !== 1 && isWhole(columns, at);

/** Whether a redraw is known to lie outside the part of the page that is shown. @param at index among the redraws */
export const isUnseen = (columns: RedrawColumns, at: number): boolean =>
  columns.inView[at] !== 1 && isWhole(columns, at);
