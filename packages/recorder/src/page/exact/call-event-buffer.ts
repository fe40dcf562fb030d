import { CALL_END } from '@nettle-patch/core';
import { now } from '../natives';
import { zeros } from '../shared-memory';

/** Events that fit one chunk; a chunk takes 12 bytes an event. */
const CHUNK_EVENTS = 32_768;
/** Chunks there may be at once, in use or on their way: 64 MiB, some five million events. */
const MAX_CHUNKS = 160;
const FIRST_CHUNKS = 3;
/** Open calls that are kept by name; those nested deeper are only counted. */
const DEEPEST = 1000;

/** Events of calls: ids of functions entered or CALL_END, each with its time of `performance.now()`. */
export interface CallChunk {
  readonly ids: Int32Array<ArrayBuffer>;
  readonly timesMs: Float64Array<ArrayBuffer>;
  readonly count: number;
  /** Events lost before it; then nothing that was open before counts any more. */
  readonly lost: number;
}

/** Stands among the ids for a caller that ran already, by its position. */
export const callerEvent = (position: number) => CALL_END - 1 - position;

/** The position of a caller that an id stands for; undefined for a function that was entered. */
export const callerPosition = (id: number) => (id < CALL_END ? CALL_END - 1 - id : undefined);

/** The buffers of a chunk, to be used again. */
export type ChunkBuffers = Pick<CallChunk, 'ids' | 'timesMs'>;

/**
 * Holds the beginnings and ends of calls in buffers allocated beforehand and hands full ones on. Its state stands in no
 * object: what runs in every call of a rewritten script must be as short as can be.
 */
export interface CallEventBuffer {
  /** The clock of its times. */
  now(): number;
  enterAt(id: number, atMs: number): void;
  leaveAt(atMs: number): void;
  /** Begins or ends recording. */
  switch(on: boolean): void;
  /** Ends what is still open though nothing runs: a script that failed, or ran out of stack. */
  unwind(): void;
  /** The innermost open call, or undefined. */
  current(): number | undefined;
  /** Hands on what there is. */
  handOver(): void;
  /** Takes buffers back. */
  giveBack(buffers: ChunkBuffers): void;
  /** Number of open calls, then their ids, the outermost first. Shared with other threads where that may be. */
  readonly open: Int32Array;
}

function newBuffers(): ChunkBuffers {
  return { ids: new Int32Array(CHUNK_EVENTS), timesMs: new Float64Array(CHUNK_EVENTS) };
}

/** @param take gets each chunk that is full, in the middle of the app's own work */
export function createCallEventBuffer(take: (chunk: CallChunk) => void): CallEventBuffer {
  const open = zeros(DEEPEST + 1);
  const spare: ChunkBuffers[] = [];
  let made = 0;
  let { ids, timesMs }: ChunkBuffers = { ids: new Int32Array(0), timesMs: new Float64Array(0) };
  let at = 0;
  let depth = 0;
  let lost = 0;
  let on = false;

  const nextBuffers = (): ChunkBuffers | undefined => {
    if (spare.length === 0 && made < MAX_CHUNKS) {
      made++;
      return newBuffers();
    }
    return spare.pop();
  };

  /** Where no buffer is left, what this one holds is lost, and counted. */
  const turnOver = () => {
    const full = { ids, timesMs, count: at, lost };
    const next = nextBuffers();
    at = 0;
    if (next === undefined) {
      lost += full.count;
      const nowMs = now();
      for (let level = 1; level <= Math.min(depth, DEEPEST); level++) {
        ids[at] = open[level]!;
        timesMs[at++] = nowMs;
      }
      return;
    }
    lost = 0;
    ({ ids, timesMs } = next);
    take(full);
  };

  const enterAt = (id: number, atMs: number) => {
    if (!on) return;
    if (depth < DEEPEST) open[depth + 1] = id;
    open[0] = ++depth;
    ids[at] = id;
    timesMs[at] = atMs;
    if (++at === CHUNK_EVENTS) turnOver();
  };
  const leaveAt = (atMs: number) => {
    if (!on || depth === 0) return;
    open[0] = --depth;
    ids[at] = CALL_END;
    timesMs[at] = atMs;
    if (++at === CHUNK_EVENTS) turnOver();
  };

  return {
    now,
    open,
    enterAt,
    leaveAt,
    switch(wanted) {
      if (wanted && made === 0) {
        for (; made < FIRST_CHUNKS; made++) spare.push(newBuffers());
        ({ ids, timesMs } = spare.pop()!);
      }
      if (!wanted) this.unwind();
      on = wanted;
      depth = 0;
      open[0] = 0;
    },
    unwind() {
      for (const nowMs = now(); depth > 0;) leaveAt(nowMs);
    },
    current() {
      return depth > 0 && depth <= DEEPEST ? open[depth] : undefined;
    },
    handOver() {
      if (at > 0) turnOver();
    },
    giveBack(buffers) {
      spare.push(buffers);
    },
  };
}
