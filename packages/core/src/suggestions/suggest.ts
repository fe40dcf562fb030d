import type { Anatomy } from '../explanation/anatomy';
import type { Recording } from '../recording/recording';
import { afterFirstPaint } from './after-first-paint';
import { askTogether } from './ask-together';
import { drawOnce } from './draw-once';
import { giveWay } from './give-way';
import { keepResults } from './keep-results';
import { moveByTransform } from './move-by-transform';
import { outOfTheWay } from './out-of-the-way';
import { parseElsewhere } from './parse-elsewhere';
import { readBeforeWrite } from './read-before-write';
import { skipUnchanged, skipUnseen } from './redraw-less';
import type { Adviser, Suggestion } from './suggestion';

export type { Suggestion } from './suggestion';

export const ADVISERS: readonly Adviser[] = [
  readBeforeWrite,
  keepResults,
  giveWay,
  outOfTheWay,
  skipUnchanged,
  skipUnseen,
  moveByTransform,
  afterFirstPaint,
  askTogether,
  drawOnce,
  parseElsewhere,
];

const MAX = 5;
const WORTH_MS = 1;

/** What could be done about a sting, what saves most first; each kind of advice once for each function. */
export function suggestionsFor(recording: Recording, anatomy: Anatomy): Suggestion[] {
  const all = ADVISERS.flatMap((advise) => advise(recording, anatomy))
    .filter(({ savesMs }) => savesMs >= WORTH_MS)
    .sort((a, b) => b.savesMs - a.savesMs);
  const met = new Set<string>();
  const once = all.filter(({ kind, functionId }) => {
    const key = `${kind} ${functionId}`;
    if (met.has(key)) return false;
    met.add(key);
    return true;
  });
  return once.slice(0, MAX);
}
