/**
 * What something in the time view looks like. Where many things share one pixel, the look that stands last here wins:
 * what is worse, or rarer, must not be hidden.
 */
export const LOOKS = [
  'task',
  'other',
  'library',
  'browser',
  'own',
  'unseen',
  'dialog',
  'paint',
  'style',
  'layout',
  'collection',
  'waiting',
  'handling',
  'drawing',
  'frame',
  'request',
  'span',
  'mark',
  'unchanged',
  'out-of-view',
  'changed',
  'state',
  'memory',
  'note',
  'pause',
  'long-task',
  'late-frame',
  'failed',
] as const;
export type Look = (typeof LOOKS)[number];

const CODES = new Map(LOOKS.map((look, code) => [look, code]));

/** The place of a look in LOOKS. */
export function lookCode(look: Look): number {
  return CODES.get(look)!;
}
