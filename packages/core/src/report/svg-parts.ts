import type { PhaseName } from '../explanation/anatomy';
import { escapeXml } from './escape-xml';

/** Measures of a picture of values on an axis. Pixels. */
export const PICTURE_WIDTH = 960;
export const PICTURE_MARGIN = 24;
/** Where the axis begins and ends. */
export const PICTURE_LEFT = 90;
export const PICTURE_RIGHT = PICTURE_WIDTH - 120;

export const INK = '#1f2a26';
export const SOFT = '#56625d';
export const LINE = '#ddd9cf';
export const STING = '#a3154a';
export const STING_WASH = '#f6e6ec';
/** Own code, and that of libraries. */
export const OWN_FILL = '#2f6db5';
export const LIBRARY_FILL = '#7094ba';
export const PHASE_FILLS: Readonly<Record<PhaseName, string>> = {
  waiting: '#978f79',
  handling: '#4a5a52',
  drawing: '#83948c',
  request: '#d8d2c2',
  timer: '#e4dfd2',
  worker: '#e4dfd2',
  loading: '#c9c3b4',
};

/** How softer words look. */
export const soft = `fill="${SOFT}" font-size="12"`;

/** A line of words. @param look attributes beside its place */
export function text(x: number, y: number, words: string, look = ''): string {
  return `<text x="${x.toFixed(1)}" y="${y}" ${look || `fill="${INK}"`}>${escapeXml(words)}</text>`;
}

/** A picture in SVG, which needs no other file and runs no script. Pixels. */
export function svgPicture(width: number, height: number, parts: readonly string[]): string {
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" font-family="'Atkinson Hyperlegible', 'DejaVu Sans', sans-serif" font-size="14">`,
    `<rect width="100%" height="100%" fill="#fbf9f4"/>`,
    ...parts,
    '</svg>',
    '',
  ].join('\n');
}
