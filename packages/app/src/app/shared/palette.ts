import { InjectionToken, type Signal } from '@angular/core';
import type { PhaseName } from '@nettle-patch/core';

/** Colours of drawings, as the style sheet names them. */
const NAMES = {
  paper: '--paper',
  panel: '--panel',
  shade: '--shade',
  ink: '--ink',
  soft: '--soft',
  line: '--line',
  nettle: '--nettle',
  edge: '--edge',
  nettleSoft: '--nettle-soft',
  scriptOwn: '--script-own',
  onScriptOwn: '--on-script-own',
  onScriptLibrary: '--on-script-library',
  scriptLibrary: '--script-library',
  style: '--style',
  layout: '--layout',
  paint: '--paint',
  drawing: '--drawing',
  collection: '--collection',
  styleSoft: '--style-soft',
  layoutSoft: '--layout-soft',
  paintSoft: '--paint-soft',
  collectionSoft: '--collection-soft',
  other: '--other',
  sting: '--sting',
  stingSoft: '--sting-soft',
  waiting: '--waiting',
  waitingSoft: '--waiting-soft',
  handling: '--handling',
  onHandling: '--on-handling',
} as const;

export type ColourName = keyof typeof NAMES;
export type Palette = Readonly<Record<ColourName, string>>;

/** Colours of phases where they have no texture. */
export const PHASE_COLOURS: Readonly<Record<PhaseName, ColourName>> = {
  waiting: 'waiting',
  handling: 'handling',
  request: 'waitingSoft',
  timer: 'waitingSoft',
  worker: 'waitingSoft',
  loading: 'drawing',
  drawing: 'drawing',
};

/** Reads the colours in force. */
export function readPalette(): Palette {
  const style = getComputedStyle(document.documentElement);
  const read = Object.entries(NAMES).map(([name, property]) => [
    name,
    style.getPropertyValue(property).trim(),
  ]);
  return Object.fromEntries(read) as Palette;
}

/** The colours that drawings have now. */
export const PALETTE = new InjectionToken<Signal<Palette>>('colours of drawings');
