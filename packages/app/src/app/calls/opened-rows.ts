import { wholeFrom } from '../lens/lens-state';

/** As many lines are told in an address: those opened last. */
const MAX_ROWS = 200;

/** Keys of the lines that are open, as they stand in an address. */
export function readRows(text: string | undefined): string[] {
  return (text ?? '').split(',').filter((key) => /^[\d/.-]+$/.test(key));
}

/** @returns null where none is open */
export function rowsText(rows: Iterable<string>): string | null {
  return [...rows].slice(-MAX_ROWS).join(',') || null;
}

/** The box of the flame graph that is as wide as all; undefined for all calls. */
export function readBox(text: string | undefined): number | undefined {
  return wholeFrom(text);
}
