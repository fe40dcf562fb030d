import type { BreakdownPart } from './time-breakdown';

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
