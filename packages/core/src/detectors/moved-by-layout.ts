import type { Anatomy } from '../explanation/anatomy';
import { countText } from '../words/figures';
import { functionPart, ms, text, type BecausePart } from '../explanation/sentence';
import { displayName, ownerOf } from '../recording/functions';
import { MAIN_THREAD, type Recording, type TimeRange } from '../recording/recording';
import { idleIntervals, withinRanges } from '../stings/idle-intervals';
import { inferredWriterWords, writtenRedraws } from '../stings/redraw-writers';
import type { StingDetail } from '../stings/sting';
import type { Thresholds } from '../format/thresholds';
import type { Detector, Found } from './detector';

export interface MovedByLayoutDetail extends StingDetail {
  readonly type: 'moved-by-layout';
  readonly functionId: number;
  /** Frames a second in which it was moved, and what style and layout took in them of each second. */
  readonly timesASecond: number;
  readonly msASecond: number;
  /** Of its redraws, the share of which the recording does not tell who wrote. */
  readonly inferredShare: number;
  readonly target: string | undefined;
}

/** Frames a second from which an element is taken to be moved all the time. */
const MIN_FRAMES_A_SECOND = 10;

/** Style and layout are a part of what such a frame costs: painting and handing it on come on top, and are not counted. */
const PART_OF_FRAME = 0.5;

interface Mover {
  frames: number;
  redraws: number;
  inferred: number;
  layoutMs: number;
  target: string | undefined;
  startMs: number;
  endMs: number;
}

/** Style and layout of each frame, by its start, in equal parts for all that was changed in it. Milliseconds. */
function costsOfChanges({ events: { render, redraw } }: Recording): Map<number, number> {
  const { startMs: starts, changed } = redraw.columns;
  const changes = new Map<number, number>();
  starts.forEach((startMs, at) => {
    if (changed[at] === 1) changes.set(startMs, (changes.get(startMs) ?? 0) + 1);
  });
  const { startMs, styleMs, layoutMs } = render.columns;
  return new Map(
    Array.from(startMs, (frameMs, at) => [
      frameMs,
      (styleMs[at]! + layoutMs[at]!) / Math.max(1, changes.get(frameMs) ?? 0),
    ]),
  );
}

/** Frames in which all that was changed in a place are attributes, by who wrote them. */
function moversOf(recording: Recording, quiet: readonly TimeRange[]): Map<number, Mover> {
  const costs = costsOfChanges(recording);
  const movers = new Map<number, Mover>();
  const isQuiet = withinRanges(quiet);
  const { redraw } = recording.events;
  const times = redraw.column('startMs');
  for (const { at, functionId, isKnown } of writtenRedraws(recording, MAIN_THREAD)) {
    if (!isQuiet(times[at]!)) continue;
    const { startMs, changed, inView, attributes, nodes, texts, more = 0, target } = redraw.row(at);
    if (!changed || !inView || attributes === 0 || nodes + texts + more > 0) continue;
    const mover = movers.get(functionId) ?? {
      frames: 0,
      redraws: 0,
      inferred: 0,
      layoutMs: 0,
      target,
      startMs,
      endMs: -Infinity,
    };
    movers.set(functionId, mover);
    mover.redraws++;
    if (!isKnown) mover.inferred++;
    if (mover.endMs < startMs) mover.frames++;
    mover.layoutMs += costs.get(startMs) ?? 0;
    mover.endMs = startMs;
  }
  return movers;
}

/**
 * Something that moves by itself, frame after frame, in a way that has style and layout of the page done anew each
 * time, so that it costs the main thread what the compositor could do for nothing.
 */
function find(recording: Recording, thresholds: Thresholds): Found<MovedByLayoutDetail>[] {
  const budgetMs = thresholds.idleMsASecond * PART_OF_FRAME;
  const quiet = idleIntervals(recording);
  const seconds = quiet.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0) / 1000;
  if (seconds === 0) return [];
  return [...moversOf(recording, quiet)].flatMap(([functionId, mover]): Found<MovedByLayoutDetail>[] => {
    const { frames, layoutMs, target, startMs, endMs } = mover;
    const recorded = recording.functions.get(functionId);
    const msASecond = layoutMs / seconds;
    const isSteady = frames / seconds >= MIN_FRAMES_A_SECOND;
    if (!isSteady || msASecond < budgetMs || ownerOf(recorded) === 'browser') return [];
    return [
      {
        thread: MAIN_THREAD,
        label: `Layout in every frame by ${displayName(recorded)}`,
        startMs,
        endMs,
        feltMs: msASecond,
        budgetMs,
        detail: {
          type: 'moved-by-layout',
          functionId,
          culprit: { functionId, besidesMsASecond: msASecond },
          timesASecond: frames / seconds,
          msASecond,
          inferredShare: mover.inferred / mover.redraws,
          target,
        },
      },
    ];
  });
}

function because(recording: Recording, _anatomy: Anatomy, detail: MovedByLayoutDetail): BecausePart[] {
  const { functionId, timesASecond, msASecond, inferredShare, target } = detail;
  return [
    text('While nobody did anything, '),
    functionPart(recording, functionId),
    text(
      ` moved ${target ?? 'something'} ${countText(timesASecond)} times a second, and each time style and layout were done anew: `,
    ),
    ms(msASecond, true),
    text(` of each second.${inferredWriterWords(inferredShare)}`),
  ];
}

export const movedByLayout: Detector<'idle-work', MovedByLayoutDetail> = {
  kind: 'idle-work',
  detail: 'moved-by-layout',
  label: 'idle work',
  about: 'Something that moves by itself so that style and layout are done anew in each frame',
  extent: 'course',
  isRate: true,
  find,
  because,
};
