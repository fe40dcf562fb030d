import {
  roundText,
  NO_STACK,
  UNKNOWN_FUNCTION,
  type Anatomy,
  type CallBlock,
  type Certainty,
  type Owner,
  type TimeRange,
  PHASES,
  type PhaseName,
  type Segment,
} from '@nettle-patch/core';
import type { NamedFunction } from '../../../workers/analysis/analysis-results';
import { TimeScale } from '../../shared/time-scale';

/** What is drawn of time in which no known code ran. */
export const RESTS = {
  style: 'style',
  layout: 'layout',
  paint: 'paint, and the way of the picture to the screen',
  collection: 'memory being collected',
  other: 'other work of the browser',
  dialog: 'a dialog was open, and a person in front of it',
  drawing: 'style, layout and paint, not told apart',
  unexplained: 'busy, and not known with what',
  idle: 'main thread idle, or the picture on its way to the screen',
} as const;
type RestKind = keyof typeof RESTS;

/** Something drawn, with the words that are shown when it is pointed at. */
export interface Shape {
  readonly kind:
    PhaseName | 'own' | 'library' | 'stem' | RestKind | 'unseen' | 'thorn' | 'queued' | 'blocker';
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly text: string;
  readonly words: string;
  /** The time it stands for, which may begin before the drawing. Milliseconds. */
  readonly range: TimeRange;
  readonly functionId?: number;
  readonly owner?: Owner;
  readonly certainty?: Certainty;
}

/** The drawing of a sting: shapes in pixels, and the places of its lines. */
export interface AnatomyLayout {
  readonly scale: TimeScale;
  readonly shapes: readonly Shape[];
  /** Where the budget ends; outside the drawing when it is not used up, or is a part of each second. */
  readonly budgetX: number;
  readonly axisY: number;
  readonly height: number;
  /** Where the display got no new picture. */
  readonly missedX: readonly number[];
}

export const LAYOUT = {
  margin: 10,
  inputY: 24,
  phaseY: 36,
  phaseHeight: 22,
  unseenY: 78,
  unseenHeight: 14,
  blocksY: 94,
  blockHeight: 20,
  blockGap: 1,
  mostRows: 7,
  thornHeight: 10,
  queuedHeight: 14,
} as const;

const MIN_WIDTH = 0.5;
/** A phase narrower than this has no room for its name. */
const NARROW_WIDTH = 70;
/** Room a figure under a thorn needs. */
const THORN_TEXT_WIDTH = 130;

function rowY(depth: number): number {
  return LAYOUT.blocksY + depth * (LAYOUT.blockHeight + LAYOUT.blockGap);
}

const rangeOf = ({ startMs, endMs }: TimeRange): TimeRange => ({ startMs, endMs });

function span(scale: TimeScale, startMs: number, endMs: number): { x: number; width: number } {
  const x = scale.x(startMs);
  return { x, width: Math.max(MIN_WIDTH, scale.x(endMs) - x) };
}

function phaseShapes(anatomy: Anatomy, scale: TimeScale): Shape[] {
  return anatomy.phases
    .filter((phase) => phase.endMs > phase.startMs)
    .map((phase) => {
      const words = `${phase.name} ${roundText(phase.endMs - phase.startMs)} ms`;
      const place = {
        range: rangeOf(phase),
        ...span(scale, phase.startMs, phase.endMs),
        y: LAYOUT.phaseY,
        height: LAYOUT.phaseHeight,
      };
      // Of many phases, those too narrow for their words are told only where they are pointed out.
      const isTold = anatomy.phases.length <= PHASES.length || place.width > NARROW_WIDTH;
      return { kind: phase.name, ...place, text: isTold ? words : '', words };
    });
}

function blockShapes(
  blocks: readonly CallBlock[],
  kind: 'block' | 'stem',
  scale: TimeScale,
  functions: ReadonlyMap<number, NamedFunction>,
): Shape[] {
  return blocks
    .filter((block) => block.depth < LAYOUT.mostRows)
    .map((block) => {
      const named = functions.get(block.functionId);
      const lengthMs = roundText(block.endMs - block.startMs);
      const known = block.certainty;
      return {
        kind: kind === 'stem' ? 'stem' : block.owner === 'own' ? 'own' : 'library',
        ...span(scale, block.startMs, block.endMs),
        y: rowY(block.depth),
        height: kind === 'stem' ? LAYOUT.blockHeight * 0.7 : LAYOUT.blockHeight,
        text: named?.name ?? '',
        words: `${named?.name ?? ''}, ${named?.place || 'no place known'}: ${lengthMs} ms, ${known}`,
        functionId: block.functionId,
        range: rangeOf(block),
        owner: block.owner,
        certainty: block.certainty,
      } satisfies Shape;
    });
}

function restKind({ activity, stack, entry }: Segment): RestKind | undefined {
  if (activity === 'script' || stack !== NO_STACK || entry !== UNKNOWN_FUNCTION) return undefined;
  return activity;
}

function restShapes(segments: readonly Segment[], scale: TimeScale): Shape[] {
  return segments.flatMap((segment): Shape[] => {
    const kind = restKind(segment);
    if (kind === undefined) return [];
    const { startMs, endMs } = segment;
    const words = `${RESTS[kind]}: ${roundText(endMs - startMs)} ms`;
    const place = { ...span(scale, startMs, endMs), y: rowY(0), height: LAYOUT.blockHeight };
    const text = kind === 'unexplained' ? '?' : kind === 'idle' || kind === 'drawing' ? '' : kind;
    return [{ kind, ...place, text, words, range: { startMs, endMs }, certainty: segment.certainty }];
  });
}

/** Stretches of script for which the engine gave no stack, so that the blocks under them are inferred. */
function unseenShapes(segments: readonly Segment[], scale: TimeScale): Shape[] {
  return segments
    .filter(({ activity, certainty }) => activity === 'script' && certainty === 'inferred')
    .map(({ startMs, endMs }) => ({
      kind: 'unseen',
      ...span(scale, startMs, endMs),
      y: LAYOUT.unseenY,
      height: LAYOUT.unseenHeight,
      text: 'no stack: inferred',
      words: `${roundText(endMs - startMs)} ms for which the engine gave no stack: the functions below are inferred`,
      range: { startMs, endMs },
    }));
}

interface Forced {
  readonly startMs: number;
  readonly costMs: number;
  readonly words: string;
}

/** Where layout was forced: as each place of it tells, or, where none does, as the engine tells of each handler. */
function forcedPlaces(anatomy: Anatomy): Forced[] {
  if (anatomy.forced.length > 0) {
    return anatomy.forced.map(({ startMs, costMs, count, read, write }) => ({
      startMs,
      costMs,
      words: `layout forced ${count === 1 ? 'once' : `${count} times`} by reading ${read}${write ? `, after ${write} was written` : ''}`,
    }));
  }
  return anatomy.handlers.map(({ startMs, forcedMs = 0 }) => ({
    startMs,
    costMs: forcedMs,
    words: 'forced layout inside this stretch of script; where in it was not measured',
  }));
}

/** Thorns under each stretch of script that forced layout, as wide as the layout took; the dearest with its figure. */
function thornShapes(anatomy: Anatomy, scale: TimeScale, rows: number): Shape[] {
  const labelled: { readonly x: number; readonly width: number }[] = [];
  return forcedPlaces(anatomy)
    .filter(({ costMs }) => costMs >= 0.1)
    .sort((a, b) => b.costMs - a.costMs)
    .map(({ startMs, costMs, words }) => {
      const x = scale.x(Math.max(startMs, scale.startMs));
      const width = Math.max(LAYOUT.thornHeight, costMs * scale.pixelsPerMs);
      const room = { x, width: Math.max(width, THORN_TEXT_WIDTH) };
      const hasRoom = labelled.every((other) => x >= other.x + other.width || x + room.width <= other.x);
      if (hasRoom) labelled.push(room);
      const place = { x, width, y: rowY(rows), height: LAYOUT.thornHeight };
      const text = hasRoom ? `${roundText(costMs)} ms forced layout` : '';
      const range = { startMs, endMs: startMs + costMs };
      return { kind: 'thorn', ...place, text, words: `${roundText(costMs)} ms: ${words}`, range };
    });
}

function queuedShapes(anatomy: Anatomy, scale: TimeScale, top: number): Shape[] {
  return anatomy.queued.map((queued, index) => ({
    kind: 'queued',
    ...span(scale, queued.startMs, queued.endMs),
    y: top + index * (LAYOUT.queuedHeight + 4),
    height: LAYOUT.queuedHeight,
    text: queued.label,
    words: `had to wait meanwhile: ${queued.label}`,
    range: rangeOf(queued),
  }));
}

/** What the input waited for, as blocks in the band of its waiting. */
function blockerShapes(
  { inTheWay }: Anatomy,
  scale: TimeScale,
  functions: ReadonlyMap<number, NamedFunction>,
): Shape[] {
  return inTheWay.map(({ startMs, endMs, beganMs, entry, functionId }) => {
    const name = (functionId === undefined ? undefined : functions.get(functionId)?.name) ?? entry;
    const before = beganMs < startMs ? `, begun ${roundText(startMs - beganMs)} ms before the input` : '';
    return {
      kind: 'blocker',
      ...span(scale, startMs, endMs),
      y: LAYOUT.phaseY + 3,
      height: LAYOUT.phaseHeight - 6,
      text: name ?? 'busy',
      words: `in the way: ${name ?? 'work that is not told'} for ${roundText(endMs - startMs)} ms${before}`,
      range: { startMs: beganMs, endMs },
      ...(functionId === undefined ? {} : { functionId }),
    };
  });
}

/** Lays the drawing of a sting out in a given width. Pure: the same input gives the same shapes. */
export function layOutAnatomy(
  anatomy: Anatomy,
  functions: ReadonlyMap<number, NamedFunction>,
  width: number,
): AnatomyLayout {
  const { sting } = anatomy;
  const scale = new TimeScale(sting.startMs, sting.endMs, LAYOUT.margin, width - LAYOUT.margin);
  const deepest = Math.max(
    -1,
    ...anatomy.blocks.map(({ depth }) => depth),
    ...anatomy.stems.map(({ depth }) => depth),
  );
  const rows = Math.min(LAYOUT.mostRows, Math.max(1, deepest + 1));
  const thorns = thornShapes(anatomy, scale, rows);
  const queuedTop = rowY(rows) + (thorns.length > 0 ? LAYOUT.thornHeight + 20 : 6);
  const queued = queuedShapes(anatomy, scale, queuedTop);
  const axisY = queuedTop + queued.length * (LAYOUT.queuedHeight + 4) + 6;
  return {
    scale,
    shapes: [
      ...phaseShapes(anatomy, scale),
      ...blockerShapes(anatomy, scale, functions),
      ...restShapes(anatomy.segments, scale),
      ...unseenShapes(anatomy.segments, scale),
      ...blockShapes(anatomy.blocks, 'block', scale, functions),
      ...blockShapes(anatomy.stems, 'stem', scale, functions),
      ...thorns,
      ...queued,
    ],
    budgetX: sting.isRate ? Infinity : scale.x(sting.startMs + sting.budgetMs),
    axisY,
    height: axisY + 24,
    missedX: anatomy.missed.map((ms) => scale.x(ms)),
  };
}

/** The topmost shape at a place. */
export function shapeAt(layout: AnatomyLayout, x: number, y: number): Shape | undefined {
  return layout.shapes.findLast(
    (shape) =>
      x >= shape.x - 1 && x <= shape.x + shape.width + 1 && y >= shape.y && y <= shape.y + shape.height,
  );
}
