import { cutText } from '../words/cut-text';
import { callTree } from '../calls/call-tree';
import { flameLayout } from '../calls/flame-layout';
import { WIDE_LENS, type Lens } from '../calls/lens';
import { displayName, displayPlace, ownerOf } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { isTime, weightText, weightUnit } from '../recording/weights';
import { escapeXml } from '../report/escape-xml';
import { LIBRARY_FILL, OWN_FILL } from '../report/svg-parts';

const WIDTH = 1200;
const ROW = 20;
const MARGIN = 10;
const HEAD = 34;
const LETTER = 6.6;
const COLOURS = { own: OWN_FILL, library: LIBRARY_FILL, browser: '#d9622b' } as const;

/** The calls under a lens as a flame graph in SVG, which needs no other file and runs no script. */
export function flameSvg(recording: Recording, lens: Lens = WIDE_LENS): string {
  const inner = WIDTH - 2 * MARGIN;
  const unit = weightUnit(recording.header);
  const boxes = flameLayout(recording, callTree(recording, lens), 'weight', 0.5 / inner);
  const deepest = boxes.reduce((most, { depth }) => Math.max(most, depth), 0);
  const height = HEAD + (deepest + 1) * ROW + MARGIN;
  const drawn = boxes.map(({ functionId, left, width, depth, totalMs }) => {
    const recorded = recording.functions.get(functionId);
    const owner = ownerOf(recorded);
    const x = (MARGIN + left * inner).toFixed(2);
    const y = HEAD + depth * ROW;
    const wide = width * inner;
    const place = displayPlace(recorded, recording.sources.get(recorded?.source ?? -1));
    const name = displayName(recorded);
    const letters = Math.floor((wide - 8) / LETTER);
    const shown = letters < 3 ? '' : cutText(name, letters);
    const ink = owner === 'own' ? '#ffffff' : '#1f2a26';
    const title = `<title>${escapeXml(`${name}, ${place || 'no place known'}: ${weightText(totalMs, unit)}`)}</title>`;
    const words =
      shown === '' ? '' : `<text x="${Number(x) + 4}" y="${y + 14}" fill="${ink}">${escapeXml(shown)}</text>`;
    return `<g>${title}<rect x="${x}" y="${y}" width="${Math.max(0.3, wide - 0.5).toFixed(2)}" height="${ROW - 1}" fill="${COLOURS[owner]}"/>${words}</g>`;
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${height}" width="${WIDTH}" height="${height}" font-family="sans-serif" font-size="12">`,
    `<rect width="100%" height="100%" fill="#fbf9f4"/>`,
    `<text x="${MARGIN}" y="22" fill="#1f2a26" font-size="14">${escapeXml(recording.header.title || recording.header.target.title)}: ${isTime(unit) ? 'time' : unit} by call, from the outermost down</text>`,
    ...drawn,
    '</svg>',
    '',
  ].join('\n');
}
