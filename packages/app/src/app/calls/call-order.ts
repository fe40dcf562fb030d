import type { CallsMode } from '../../workers/analysis/queries/call-queries';
import { CALL_COLUMNS, type CallSort } from '../../workers/analysis/queries/sort-rows';

/** The order that a parameter of the address asks for: "name", or "-selfMs" for the most first; undefined where it asks for none. */
export function readSort(order: string | undefined): CallSort | undefined {
  const isDescending = order?.startsWith('-') ?? false;
  const column = CALL_COLUMNS.find((one) => one === order?.slice(isDescending ? 1 : 0));
  return column && { column, isDescending };
}

/** From the top what took most with all it called; else what took most itself. */
export function usualSort(shown: CallsMode | 'flame'): CallSort {
  return { column: shown === 'top' ? 'totalMs' : 'selfMs', isDescending: true };
}
