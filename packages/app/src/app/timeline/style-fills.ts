import { ITEM_STYLES, type ItemStyle } from '@nettle-patch/core';
import type { Palette } from '../shared/palette';
import { fillOf } from '../shared/patterns';

export type Fill = string | CanvasPattern;

/** How each style is filled, in the order of the styles. */
export function lookFills(context: CanvasRenderingContext2D, palette: Palette): readonly Fill[] {
  return ITEM_STYLES.map((style) => fillFor(context, palette, style));
}

function fillFor(context: CanvasRenderingContext2D, palette: Palette, style: ItemStyle): Fill {
  switch (style) {
    case 'dialog':
      return fillOf(context, 'lines', palette.waiting, palette.waitingSoft);
    case 'task':
    case 'waiting':
      return palette.waiting;
    case 'own':
      return palette.scriptOwn;
    case 'library':
      return palette.scriptLibrary;
    case 'style':
      return fillOf(context, 'dots', palette.style, palette.styleSoft);
    case 'layout':
      return fillOf(context, 'hatch', palette.layout, palette.layoutSoft);
    case 'paint':
      return fillOf(context, 'lines', palette.paint, palette.paintSoft);
    case 'collection':
      return fillOf(context, 'cross', palette.collection, palette.collectionSoft);
    case 'handling':
      return palette.handling;
    case 'drawing':
      return palette.drawing;
    case 'frame':
      return palette.drawing;
    case 'changed':
    case 'span':
      return palette.handling;
    case 'mark':
    case 'state':
      return palette.soft;
    case 'note':
      return palette.nettle;
    case 'memory':
      return palette.drawing;
    case 'long-task':
      return palette.waiting;
    case 'late-frame':
      return palette.drawing;
    default:
      return palette.other;
  }
}
