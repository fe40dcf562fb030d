import type { Lens, TimeRange } from '@nettle-patch/core';

/** The lens as it stands in the address, so that a view can be bookmarked. */
export interface LensState {
  readonly range: TimeRange | undefined;
  readonly thread: number;
  /** Whether the time of libraries is charged to the own function that called them. */
  readonly foldLibraries: boolean;
  readonly foldRecursion: boolean;
  readonly minMs: number;
  /** Functions in focus, by their ids in the recording; none for all. */
  readonly focus: readonly number[];
  readonly text: string;
  /** How many times as long a device would take, of which lengths are estimated; 1 for the one that was recorded. */
  readonly slower: number;
}

export const LENS_PARAMETERS = [
  'from',
  'to',
  'thread',
  'libraries',
  'recursion',
  'min',
  'focus',
  'text',
  'slower',
] as const;

/** Parameters of the address that make up the lens; absent ones mean the usual. */
export type LensQuery = Readonly<Partial<Record<(typeof LENS_PARAMETERS)[number], string>>>;

/** A whole number as it stands in an address; undefined where it is none. */
export const wholeFrom = (text: string | undefined): number | undefined =>
  text !== undefined && /^\d{1,9}$/.test(text) ? Number(text) : undefined;

/** Ids of functions as they stand in an address, each once; those that are none are left out. */
const readFunctionIds = (text: string | undefined): number[] => {
  const ids = (text ?? '').split(',').map((id) => readFunctionId(id));
  return [...new Set(ids.filter((id) => id !== undefined))];
};

/** Id of a function as it stands in an address; undefined where it is none. */
export const readFunctionId = (text: string | undefined): number | undefined =>
  text !== undefined && /^-?\d{1,10}$/.test(text) ? Number(text) : undefined;

const roundTenth = (ms: number) => Math.round(ms * 10) / 10;

/** The lens that hides nothing but what libraries do by themselves. */
export const USUAL_LENS: LensState = {
  range: undefined,
  thread: 0,
  foldLibraries: true,
  foldRecursion: false,
  minMs: 0,
  focus: [],
  text: '',
  slower: 1,
};

const MAX_SLOWER = 20;

/** Reads the lens from an address; what makes no sense counts as absent. */
export function readLens(query: LensQuery): LensState {
  const [startMs, endMs] = [Number(query.from ?? Number.NaN), Number(query.to ?? Number.NaN)];
  const minMs = Number(query.min ?? 0);
  const slower = Number(query.slower ?? 1);
  return {
    range: endMs > startMs ? { startMs, endMs } : undefined,
    thread: wholeFrom(query.thread) ?? 0,
    foldLibraries: query.libraries !== 'open',
    foldRecursion: query.recursion === 'folded',
    minMs: minMs > 0 && Number.isFinite(minMs) ? minMs : 0,
    focus: readFunctionIds(query.focus),
    text: query.text ?? '',
    slower: slower > 1 && slower <= MAX_SLOWER ? slower : 1,
  };
}

/** The parameters of a changed lens; null takes one out of the address. */
export function lensQuery(change: Partial<LensState>): Record<string, string | number | null> {
  const query: Record<string, string | number | null> = {};
  if ('range' in change) {
    query['from'] = change.range === undefined ? null : roundTenth(change.range.startMs);
    query['to'] = change.range === undefined ? null : roundTenth(change.range.endMs);
  }
  if (change.thread !== undefined) query['thread'] = change.thread || null;
  if (change.foldLibraries !== undefined) query['libraries'] = change.foldLibraries ? null : 'open';
  if (change.foldRecursion !== undefined) query['recursion'] = change.foldRecursion ? 'folded' : null;
  if (change.minMs !== undefined) query['min'] = change.minMs || null;
  if (change.focus !== undefined) query['focus'] = change.focus.join(',') || null;
  if (change.text !== undefined) query['text'] = change.text || null;
  if (change.slower !== undefined) query['slower'] = change.slower === 1 ? null : change.slower;
  return query;
}

/** The lens as the core takes it. */
export function coreLens({ range, thread, foldLibraries, foldRecursion, minMs, focus }: LensState): Lens {
  return {
    range: range && [range.startMs, range.endMs],
    thread,
    foldLibraries,
    foldRecursion,
    minMs,
    focus: [...focus],
  };
}
