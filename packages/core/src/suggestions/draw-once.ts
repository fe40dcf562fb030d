import { ms, text } from '../blame/sentence';
import { outcomeOf } from '../outcomes/outcome';
import type { Recording } from '../recording/recording';
import type { Sting } from '../stings/sting';
import type { Adviser } from './suggestion';

/** Drawings that take less in all are hardly worth it. */
const WORTH_MS = 50;

interface Drawing {
  readonly atMs: number;
  /** Of the handler that wrote it and of the picture. */
  readonly costMs: number;
}

/** When what changed last was drawn on the way to the outcome, each time with what that took. */
function drawingsOf(recording: Recording, sting: Sting, target: string): Drawing[] {
  const { redraw, render } = recording.events;
  const chain = sting.interaction && outcomeOf(recording, sting.interaction)?.chain;
  const handlers = new Map(chain?.handlers.map((handler) => [handler.id, handler]));
  const found = new Map<number, Drawing>();
  for (let index = redraw.firstFrom(sting.startMs); index < redraw.length; index++) {
    const row = redraw.row(index);
    if (row.startMs > sting.endMs) break;
    const writer = row.by === undefined ? undefined : handlers.get(row.by);
    if (writer === undefined || row.target !== target || !row.changed || !row.inView) continue;
    const at = render.firstFrom(row.startMs - 0.01);
    const picture = at < render.length ? render.row(at) : undefined;
    const pictureMs = picture && Math.abs(picture.startMs - row.startMs) < 0.1 ? picture.durationMs : 0;
    found.set(row.startMs, { atMs: row.startMs, costMs: writer.durationMs + pictureMs });
  }
  return [...found.values()].sort((a, b) => a.atMs - b.atMs);
}

/** What was drawn several times on the way to its last change, though people wait for the last alone. */
export const drawOnce: Adviser = (recording, { sting }) => {
  const { detail } = sting;
  if (detail?.type !== 'slow-outcome' || detail.isPage || detail.target === undefined) return [];
  const drawings = drawingsOf(recording, sting, detail.target);
  const earlier = drawings.slice(0, -1);
  const earlierMs = earlier.reduce((sum, { costMs }) => sum + costMs, 0);
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
      range: { startMs: earlier[0]!.atMs, endMs: drawings.at(-1)!.atMs },
      savesMs: earlierMs,
    },
  ];
};
