import { BREAKDOWN_PARTS, type BreakdownPart } from './time-breakdown';

/** What the parts of a blame are called. */
export const BREAKDOWN_LABELS: Readonly<Record<BreakdownPart, string>> = {
  scriptOwnMs: 'own script',
  scriptLibraryMs: 'library script',
  styleMs: 'style',
  layoutMs: 'layout',
  paintMs: 'paint',
  drawingMs: 'style, layout, paint',
  collectionMs: 'collection',
  otherMs: 'other',
  dialogMs: 'open dialog',
  unexplainedMs: 'unexplained',
  idleMs: 'idle',
};

/** Less of a kind of work is not worth a line. Milliseconds. */
const MIN_SHOWN_MS = 0.05;

/** The kinds of work that are listed, with what each took. Milliseconds. */
export function shownBreakdown(
  breakdown: Readonly<Record<BreakdownPart, number>>,
): { readonly part: BreakdownPart; readonly name: string; readonly ms: number }[] {
  return BREAKDOWN_PARTS.filter((part) => breakdown[part] >= MIN_SHOWN_MS).map((part) => ({
    part,
    name: BREAKDOWN_LABELS[part],
    ms: breakdown[part],
  }));
}
