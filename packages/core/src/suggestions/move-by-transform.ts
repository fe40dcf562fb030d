import { canonicalFunction } from '../attribution/call-path';
import { countText } from '../words/figures';
import { functionPart, ms, text } from '../explanation/sentence';
import type { Adviser } from './suggestion';
import { first, last } from '../lists/items';

const MIN_FRAMES = 10;
const MIN_LAYOUT_MS = 0.5;
/** Frames of a movement follow each other within this. */
const GAP_MS = 100;

/** An element that is moved frame by frame in a way that has the page laid out each time. */
export const moveByTransform: Adviser = (recording, { sting }) => {
  const { redraw, render } = recording.events;
  const moves = [...redraw.rows()].filter(
    ({ thread, startMs, changed, attributes, nodes, texts }) =>
      thread === sting.thread &&
      startMs >= sting.startMs &&
      startMs <= sting.endMs &&
      changed &&
      attributes > 0 &&
      nodes === 0 &&
      texts === 0,
  );
  const targets = new Set(moves.map(({ target }) => target));
  return [...targets].flatMap((target) => {
    const own = moves.filter((move) => move.target === target);
    const steady = own.filter(
      (move, index) => index === 0 || move.startMs - own[index - 1]!.startMs <= GAP_MS,
    );
    if (target === undefined || steady.length < MIN_FRAMES) return [];
    const starts = new Set(steady.map(({ startMs }) => startMs));
    const layouts = [...render.rows()]
      .filter(({ startMs }) => starts.has(startMs))
      .map(({ layoutMs }) => layoutMs);
    const layoutMs = layouts.reduce((sum, value) => sum + value, 0);
    if (layouts.length === 0 || layoutMs / layouts.length < MIN_LAYOUT_MS) return [];
    const mover = steady.find((move) => move.function !== undefined)?.function;
    const functionId = mover === undefined ? undefined : canonicalFunction(recording, mover);
    const by = functionId === undefined ? [] : [text(' in '), functionPart(recording, functionId)];
    return [
      {
        kind: 'move-by-transform',
        advice: [text(`Move ${target} by a transform`), ...by, text(', so that nothing is laid out for it.')],
        evidence: [
          text(
            `It was moved in ${countText(steady.length)} frames in a row, each of which laid the page out: `,
          ),
          ms(layoutMs),
          text(' together.'),
        ],
        functionId,
        range: { startMs: first(steady).startMs, endMs: last(steady).startMs },
        savesMs: layoutMs,
      },
    ];
  });
};
