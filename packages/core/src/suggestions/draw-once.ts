import { isSlowOutcome } from '../detectors/slow-outcome';
import { ms, text } from '../explanation/sentence';
import type { Interaction } from '../inputs/interactions';
import type { Handler } from '../inputs/links';
import { outcomeOf, pictureAt, visibleRedrawsBy } from '../outcomes/outcome';
import type { Recording } from '../recording/recording';
import type { Adviser } from './suggestion';
import { first, last } from '../lists/items';

/** Drawings that take less in all are hardly worth it. */
const WORTH_MS = 50;

/** A time at which something was drawn. */
interface Drawing {
  readonly writer: Handler;
  readonly atMs: number;
  /** Of the picture. */
  readonly pictureMs: number;
}

/** When something was drawn by what an input set going, up to a time. */
function drawingsOf(
  recording: Recording,
  interaction: Interaction,
  target: string,
  untilMs: number,
): Drawing[] {
  const handlers = outcomeOf(recording, interaction)?.chain.handlers ?? [];
  return handlers
    .flatMap((writer) => visibleRedrawsBy(recording, writer.id).map((redraw) => ({ writer, redraw })))
    .filter(({ redraw }) => redraw.target === target && redraw.startMs <= untilMs)
    .map(({ writer, redraw: { startMs: atMs } }) => {
      const picture = pictureAt(recording, atMs);
      return { writer, atMs, pictureMs: picture === undefined ? 0 : picture.endMs - picture.startMs };
    })
    .sort((a, b) => a.atMs - b.atMs);
}

/** What was drawn several times on the way to its last change, though people wait for the last alone. */
export const drawOnce: Adviser = (recording, { sting: { detail, interaction, endMs } }) => {
  if (!isSlowOutcome(detail) || detail.isPage || detail.target === undefined || !interaction) return [];
  const drawings = drawingsOf(recording, interaction, detail.target, endMs);
  const earlier = drawings.slice(0, -1);
  const writers = new Set(earlier.map(({ writer }) => writer));
  // What wrote the last picture is needed anyway.
  writers.delete(last(drawings).writer);
  const earlierMs =
    earlier.reduce((sum, { pictureMs }) => sum + pictureMs, 0) +
    [...writers].reduce((sum, { durationMs }) => sum + durationMs, 0);
  if (earlierMs < WORTH_MS) return [];
  const times = drawings.length === 2 ? 'twice' : `${drawings.length} times`;
  return [
    {
      kind: 'draw-once',
      advice: [text('If what it shows on the way is not needed, draw it once, when all it shows is there.')],
      evidence: [
        text(`${detail.target} was drawn ${times}; before the last, handlers and pictures took `),
        ms(earlierMs),
        text(' for it.'),
      ],
      functionId: undefined,
      range: { startMs: first(earlier).atMs, endMs: last(drawings).atMs },
      savesMs: earlierMs,
    },
  ];
};
