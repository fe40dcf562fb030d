import type { BlamePart } from './blame';

/** What the parts of a blame are called. */
export const PART_WORDS: Readonly<Record<BlamePart, string>> = {
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
