import { known } from '../lists/items';
/**
 * What something in the time view looks like. Where many items share one pixel, the style that stands last here wins:
 * what is worse, or rarer, must not be hidden.
 */
export const ITEM_STYLES = [
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
export type ItemStyle = (typeof ITEM_STYLES)[number];

const CODES = new Map(ITEM_STYLES.map((style, code) => [style, code]));

/** The place of a style in ITEM_STYLES. */
export function itemStyleCode(style: ItemStyle): number {
  return known(CODES, style);
}
