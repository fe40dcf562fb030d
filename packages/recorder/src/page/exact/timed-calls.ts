import {
  COUNT_SLOTS,
  JUDGED_AGAIN_BY,
  JUDGED_BY,
  ONE_OF_MANY,
  QUICK_READINGS,
  TIMED_EVERY,
  slotOf,
} from '@nettle-patch/core';
import type { CountedCalls } from '../fine/call-counts';
import type { AboutThread } from '../capture-registry';
import type { Capture } from '../capture/capture';
import { measureClock } from '../clock-cost';
import type { RecordingSession } from '../session';
import type { CallEventBuffer } from './call-event-buffer';

/** Open calls that are timed; those nested deeper are recorded without being judged. */
const DEEPEST = 1000;
/** How often counts are told. */
const COUNT_EVERY_MS = 1000;
const MAX_JUDGED_BY = 20_000;
/** Measures of the clock, each of half a millisecond where it steps widely. */
const MAX_MEASURES = 10;
const NOT_TIMED = -1;

/** By calls that last at least so many steps of the clock it is judged, as chance decides what falls on a step. */
const JUDGED_BY_STEPS = 40;
/** A quick function is slow again that takes so many times as long as a quick one may. */
const SLOW_AGAIN = 2.5;

/** Times the calls of rewritten scripts, and of functions that are quick one of many, while all of them are counted. */
export interface TimedCalls extends Capture {
  /** @returns 1, so that a function that can wait notes that it runs */
  enter(id: number): 1;
  /** @returns 0 */
  leave(): 0;
}

/** Functions of which not all calls are timed. */
class QuickFunctions {
  /** By id: how many of their calls were told. */
  readonly #told = new Map<number, number>();
  /** Those that have become quick since counts were told last. */
  readonly #fresh = new Set<number>();

  add(id: number): void {
    if (!this.#told.has(id)) this.#fresh.add(id);
  }

  /** Calls that were not told yet: of functions that were quick before, and of those that have become so. */
  take(calls: Int32Array): readonly [before: CountedCalls, fresh: CountedCalls] {
    const before = this.#since(calls, this.#told.keys());
    const fresh = this.#since(calls, this.#fresh);
    this.#fresh.clear();
    return [before, fresh];
  }

  #since(calls: Int32Array, functions: Iterable<number>): CountedCalls {
    const ids: number[] = [];
    const counts: number[] = [];
    for (const id of [...functions].sort((a, b) => a - b)) {
      const count = calls[slotOf(id)]!;
      const more = count - (this.#told.get(id) ?? 0);
      this.#told.set(id, count);
      if (more === 0) continue;
      ids.push(id);
      counts.push(more);
    }
    return { ids: Int32Array.from(ids), counts: Int32Array.from(counts) };
  }
}

/**
 * @param ring takes the calls that are timed
 * @param sink takes counts
 */
export function createTimedCalls(
  ring: CallEventBuffer,
  sink: (session: RecordingSession, about: AboutThread, transfer: Transferable[]) => void,
): TimedCalls {
  const { now, open } = ring;
  /** By slot of the id: all calls; of those timed since it was judged last, how many and how long; whether it is quick. */
  let calls = new Int32Array(0);
  let timed = new Uint16Array(0);
  let tookMs = new Float32Array(0);
  let isQuick = new Uint8Array(0);
  /** By depth: the function, and when it was entered, where it is timed. */
  const ids = new Int32Array(DEEPEST + 1);
  const beganMs = new Float64Array(DEEPEST + 1);
  let quick = new QuickFunctions();
  /** What a quick call takes less than, as it is timed: about one reading falls between the two that time it. */
  let quickMs = 0;
  let measures = 0;
  /** Calls by which it is judged. */
  let judgedBy = JUDGED_BY;
  let depth = 0;
  /** How many of them the ring knows of. */
  let told = 0;
  let session: RecordingSession | undefined;
  let startedMs = 0;
  let countedMs = 0;

  /**
   * Of the first measures of the clock that holds in which it took least: in the others, something else ran too. Measuring
   * takes time of the app.
   */
  const setLimits = () => {
    if (measures++ >= MAX_MEASURES) return;
    const { readMs, stepMs } = measureClock();
    const limitMs = (QUICK_READINGS + 1) * readMs;
    if (quickMs !== 0 && limitMs >= quickMs) return;
    quickMs = limitMs;
    judgedBy = Math.min(MAX_JUDGED_BY, Math.max(JUDGED_BY, Math.ceil((JUDGED_BY_STEPS * stepMs) / quickMs)));
  };

  /** Decides by the calls that were timed whether a function is quick. */
  const judge = (id: number, slot: number) => {
    const meanMs = tookMs[slot]! / timed[slot]!;
    if (isQuick[slot] === 0 && meanMs < quickMs) setLimits();
    if (isQuick[slot] === 0 && meanMs < quickMs) {
      isQuick[slot] = 1;
      quick.add(id);
    } else if (meanMs > SLOW_AGAIN * quickMs) isQuick[slot] = 0;
    timed[slot] = tookMs[slot] = 0;
  };

  const tell = (sinceMs: number, counted: CountedCalls) => {
    if (session === undefined || counted.ids.length === 0) return;
    const about = { type: 'counts', sinceMs, untilMs: now(), ...counted } as const;
    sink(session, about, [counted.ids.buffer, counted.counts.buffer]);
  };
  const count = () => {
    const [before, fresh] = quick.take(calls);
    tell(countedMs, before);
    tell(startedMs, fresh);
    countedMs = now();
  };

  /** Only where there are calls: else nothing is held for them. */
  const makeRoom = () => {
    calls = new Int32Array(COUNT_SLOTS);
    timed = new Uint16Array(COUNT_SLOTS);
    tookMs = new Float32Array(COUNT_SLOTS);
    isQuick = new Uint8Array(COUNT_SLOTS);
    if (quickMs === 0) setLimits();
  };

  return {
    name: 'timed-calls',
    available: true,
    enter(id) {
      if (session === undefined) return 1;
      if (calls.length === 0) makeRoom();
      // The ring has ended what a script that failed left open.
      if (open[0]! < told) depth = told = 0;
      const level = ++depth;
      if (level > DEEPEST) {
        ring.enterAt(id, now());
        return 1;
      }
      const slot = slotOf(id);
      const nth = ++calls[slot]!;
      ids[level] = id;
      const isOneOfMany = isQuick[slot] === 1;
      if (isOneOfMany && nth % TIMED_EVERY !== 0) {
        beganMs[level] = NOT_TIMED;
        return 1;
      }
      const ms = now();
      told++;
      beganMs[level] = ms;
      ring.enterAt(isOneOfMany ? id + ONE_OF_MANY : id, ms);
      return 1;
    },
    leave() {
      if (session === undefined || depth === 0) return 0;
      const level = depth--;
      if (level > DEEPEST) {
        ring.leaveAt(now());
        return 0;
      }
      const began = beganMs[level]!;
      if (began === NOT_TIMED) return 0;
      const ms = now();
      told--;
      ring.leaveAt(ms);
      const id = ids[level]!;
      const slot = slotOf(id);
      tookMs[slot]! += ms - began;
      if (++timed[slot]! === (isQuick[slot] === 1 ? JUDGED_AGAIN_BY : judgedBy)) judge(id, slot);
      return 0;
    },
    start(started) {
      session = started;
      calls = new Int32Array(0);
      quick = new QuickFunctions();
      startedMs = countedMs = now();
      depth = told = 0;
    },
    collect() {
      if (now() - countedMs >= COUNT_EVERY_MS) count();
    },
    stop() {
      count();
      session = undefined;
    },
  };
}
