import { COUNT_SLOTS, LOOK_COUNTDOWN, OPEN_CALLS_LENGTH, lineReached, slotOf } from '@nettle-patch/core';
import { measureClock } from '../clock-cost';
import { now } from '../natives';
import { zeros } from '../shared-memory';
import { enter, enterUnlooked } from './enter';
import { HeldSamples } from './held-samples';
import { keptApart } from './kept-apart';
import { FINE_INTERVAL_MS, StackSamples, type LookSamples } from './stack-samples';

/** The clock is read about so often. */
const LOOKS_A_MS = 10;
/** More time between two looks was spent in what nobody looks at. */
const LONG_BETWEEN_MS = 0.5;
/** How much is done between two looks, in nodes of the tree of a script: at first, at least and at most. */
const FIRST_BETWEEN = 2000;
const MIN_BETWEEN = 8;
const MAX_BETWEEN = 2 ** 24;
/** Longer than any run without a look, where no look is wanted. */
const NO_LOOK = 2 ** 31 - 1;
const NO_LOOK_AT_CALLS = 2 ** 30;
/** Looks are not evenly apart: what goes round as evenly would be met at one place. Multiples of this share are spread evenly. */
const GOLDEN_SHARE = 0.618034;
/** Looks at calls out of rewritten code may cost this share of the time; each takes as long as so many readings of the clock. */
const CALL_LOOKS_SHARE = 0.02;
const READS_A_CALL = 6;
/** To a call that was always quick, looks may add as much on average. Milliseconds. */
const LOOKS_A_QUICK_CALL_MS = 5e-6;
/** The mean of what a line's calls took follows the latest so many. */
const MEAN_OF = 1000;
/** For that, a call counts as so many times those before it and a step of the clock at most: many quick ones may follow on one that had to wait. */
const SLOWER = 4;
/** So much of a step of the clock may have passed unseen in all calls of a line together that were looked at. */
const UNSEEN_STEP = 0.2;
/** Time that nobody looked at, and that is longer, was spent in what had been called. */
const CALLED_OUT_MS = 1;
/** Runs that follow each other as closely are one: a flood of promises is not looked at one by one. */
const FLOOD_RUNS = 64;
const SAME_RUN_MS = 2;
/** How long samples are held while a task goes on. */
const HAND_OVER_MS = 200;

/** What rewritten scripts use in fine mode, and how the recorder takes samples of it. */
export interface LookSampler {
  /** Number of open calls, their positions, and at the end what is left until the next look. */
  readonly calls: Int32Array<ArrayBufferLike>;
  readonly counts: Int32Array<ArrayBufferLike>;
  /** Whether scripts are to look, for as long as the page lasts: no look is needed where another thread takes the samples. */
  readonly takesLooks: boolean;
  /** @param lines of a loop behind which it looks: ids, each with what is done there in a turn */
  readonly look: (...lines: readonly number[]) => 0;
  readonly lookAtCall: (id: number) => 0;
  readonly leaveRoot: () => 0;
  /** @returns how many calls are open */
  enter: (id: number) => number;
  /** Goes on with a call at a position. */
  enterAgain: (id: number, position: number) => number;
  leaveWaiting(): 0;
  /** Begins or ends sampling; where memory is shared, another thread takes the samples. */
  switch(on: boolean): void;
  /** Ends what is still open though nothing runs. */
  unwind(): void;
  /** Hands on what there is. */
  handOver(): void;
}

/** A line that may call out of rewritten code. */
interface CallingLine {
  /** How long a call from it takes, of those that were looked at. Milliseconds. */
  meanMs: number;
  looks: number;
  /** How many of its calls pass without a look. */
  unseen: number;
  /** Time that the other calls took, by those that were looked at, and for which no sample was taken. Milliseconds. */
  owedMs: number;
}

/**
 * The recorder's state in fine mode. Rewritten scripts write where they stand into `calls`; at entries into functions and
 * at turns of loops a counter runs down, and when it is used up, the clock is read. Each millisecond that has passed by
 * then is a sample of the line at which the thread stood. A line that may call out of rewritten code is looked at before
 * and, by the next look, behind: at first each time, then the more seldom the quicker it was.
 * @param take gets samples, in the middle of the app's own work
 * @param isFunction whether an id is that of a function, and not of a position in one
 * @param isShared whether memory can be shared with other threads
 */
export function createLookSampler(
  take: (samples: LookSamples) => void,
  isFunction: (id: number) => boolean,
  isShared: boolean,
): LookSampler {
  const calls = zeros(OPEN_CALLS_LENGTH, isShared);
  const counts = zeros(COUNT_SLOTS, isShared);
  const samples = new StackSamples(take);
  const held = new HeldSamples((atMs, from, depth) => samples.add(atMs, from, depth));
  let handedOverMs = 0;
  /** Lines that are no longer looked at since nothing is recorded. */
  let demoted: number[] = [];
  let on = false;
  let betweenLooks = FIRST_BETWEEN;
  /** Where the next look stands between the nearest and the furthest it may be, from 0 to 1. */
  let spread = 0;
  let looksSince = 0;
  let looksSinceMs = 0;
  let lookedMs = 0;
  let lookedRun = -1;
  let dueMs = 0;
  let run = 0;
  let runsSinceIdle = 0;
  let calledOutOf = 0;
  let callLookMs = 0;
  /** What was left until the next look when that call was looked at. */
  let leftAtCall = 0;
  const before = new Int32Array(OPEN_CALLS_LENGTH);
  /** Whether the line that was looked at last may still be calling: it was called back to it, or it calls once more. */
  let mayCall = false;
  const callingLines = Object.create(null) as Record<number, CallingLine | undefined>;
  /** Stacks of calling lines for which samples are still to be taken, and how many. */
  let owed: { readonly stack: Int32Array; readonly together: number; count: number }[] = [];
  let clockMs = 0;
  /** The least that a call was seen to take: about a step of the clock, which may be too wide to be measured beforehand. */
  let stepMs = FINE_INTERVAL_MS;
  /** Calls of a line that pass without a look at most. */
  let maxUnseen = 0;
  /** What an app puts in place of a function of the language may look too, while a look calls it. */
  let isLooking = false;

  calls[LOOK_COUNTDOWN] = NO_LOOK;

  /** The first calling line that samples are owed to, whose callers still stand where they stood. */
  const nextOwed = () => {
    for (; owed.length > 0; owed.shift()) {
      const [first] = owed;
      const { stack, count } = first!;
      let at = stack[0]! - 1;
      if (count === 0 || calls[0]! < at) continue;
      while (at > 0 && stack[at] === calls[at]) at--;
      if (at === 0) return first;
    }
    return undefined;
  };

  const handOver = (ms: number) => {
    handedOverMs = ms;
    held.release();
    samples.handOver();
  };

  /**
   * Takes the samples that are due by a time: of calling lines whose calls took that long without having been looked at,
   * and else all of one stack; or holds them, where it is not known whose they are.
   */
  const samplesUntil = (ms: number, from: Int32Array, depth: number, isHeld = false) => {
    for (; dueMs <= ms; dueMs += FINE_INTERVAL_MS) {
      const first = from === before ? undefined : nextOwed();
      if (first !== undefined) {
        first.count--;
        samples.add(dueMs, first.stack, first.stack[0]!, first.together);
      } else if (isHeld) held.hold(dueMs, from);
      else samples.add(dueMs, from, depth);
    }
    if (ms - handedOverMs > HAND_OVER_MS) handOver(ms);
  };

  const beginRun = (ms: number) => {
    if (ms - lookedMs > SAME_RUN_MS) runsSinceIdle = 0;
    lookedRun = run;
    mayCall = false;
    // On a grid that does not know when runs begin, a short one has its chance of a sample and no more.
    dueMs = (Math.floor(ms / FINE_INTERVAL_MS) + 1) * FINE_INTERVAL_MS;
    looksSinceMs = ms;
    looksSince = 0;
  };

  /** Notes what a call took: samples are owed for those before it that nobody looked at. */
  const callTook = (id: number, tookMs: number) => {
    const line = (callingLines[id] ??= { meanMs: 0, looks: 0, unseen: 0, owedMs: 0 });
    line.owedMs += tookMs * line.unseen;
    if (tookMs > 0 && tookMs < stepMs) stepMs = tookMs;
    const mostMs = stepMs + SLOWER * line.meanMs;
    line.meanMs += (Math.min(tookMs, mostMs) - line.meanMs) / Math.min(++line.looks, MEAN_OF);
    const meanMs = line.meanMs + (UNSEEN_STEP * stepMs) / line.looks;
    const affordable = (READS_A_CALL * clockMs) / CALL_LOOKS_SHARE / meanMs;
    line.unseen = Math.floor(Math.min(affordable, 2 * line.unseen + 1, maxUnseen));
    counts[slotOf(id)] = line.unseen;
    if (line.owedMs < FINE_INTERVAL_MS) return;
    const count = Math.floor(line.owedMs / FINE_INTERVAL_MS);
    line.owedMs -= count * FINE_INTERVAL_MS;
    owed.push({ stack: before.slice(0, before[0]! + 1), together: count, count });
  };

  const endCallOut = (ms: number) => {
    const id = calledOutOf;
    calledOutOf = 0;
    mayCall = true;
    const tookMs = Math.max(0, ms - callLookMs - clockMs);
    samplesUntil(ms, before, before[0]!);
    looksSinceMs += tookMs;
    callTook(id, tookMs);
  };

  /** Whether the line that was looked at last as it called is no longer where its function stands. */
  const hasLeftCall = (depth: number) => depth < before[0]! || calls[before[0]!] !== before[before[0]!];

  const adapt = (ms: number) => {
    looksSince++;
    const passedMs = ms - looksSinceMs;
    if (passedMs < FINE_INTERVAL_MS && looksSince < 4 * LOOKS_A_MS) return;
    const ratio = passedMs > 0 ? looksSince / (passedMs * LOOKS_A_MS) : 4;
    betweenLooks *= Math.min(4, Math.max(0.25, ratio));
    betweenLooks = Math.min(MAX_BETWEEN, Math.max(MIN_BETWEEN, betweenLooks));
    looksSinceMs = ms;
    looksSince = 0;
  };

  /** Charges what passed since the latest look to the line that was called back to, where that was long. */
  const endLine = (ms: number) => {
    if (ms - lookedMs > CALLED_OUT_MS) samplesUntil(ms, before, before[0]!);
    lookedMs = ms;
    mayCall = false;
  };

  const lookNow = keptApart((depth) => {
    const ms = now();
    const isBehindCall = calledOutOf !== 0;
    if (isBehindCall) endCallOut(ms);
    else if (lookedRun !== run) beginRun(ms);
    else {
      held.settle(calls);
      const isLong = ms - lookedMs > CALLED_OUT_MS;
      const hasLeft = mayCall && hasLeftCall(depth);
      if (hasLeft) mayCall = false;
      // What has only begun has not taken long: its caller has.
      const isCallers = isLong && depth > 1 && isFunction(calls[depth]!);
      if (isLong && hasLeft) samplesUntil(ms, before, before[0]!);
      else samplesUntil(ms, calls, isCallers ? depth - 1 : depth);
      // A long time between two looks says nothing of how much is done in a short one.
      looksSinceMs += Math.max(0, ms - lookedMs - LONG_BETWEEN_MS);
      adapt(ms);
    }
    lookedMs = ms;
    // A look behind a call stands there whatever was done: the next that comes of what was done is still due.
    spread = (spread + GOLDEN_SHARE) % 1;
    calls[LOOK_COUNTDOWN] = isBehindCall ? leftAtCall : betweenLooks * (0.5 + spread);
  });

  const look: LookSampler['look'] = (...lines) => {
    if (isLooking) return 0;
    if (!on) {
      calls[LOOK_COUNTDOWN] = NO_LOOK;
      return 0;
    }
    isLooking = true;
    const depth = calls[0]!;
    // What runs within the function may have unwound all.
    if (lines.length > 0 && depth > 0) calls[depth] = lineReached(lines, -calls[LOOK_COUNTDOWN]!);
    try {
      lookNow(depth);
    } finally {
      isLooking = false;
    }
    return 0;
  };

  const lookAtCallNow = (id: number) => {
    const ms = now();
    const depth = calls[0]!;
    if (calledOutOf !== 0) endCallOut(ms);
    else if (lookedRun !== run) {
      beginRun(ms);
      leftAtCall = betweenLooks;
    } else {
      leftAtCall = calls[LOOK_COUNTDOWN]!;
      samplesUntil(ms, calls, depth, true);
    }
    calledOutOf = id;
    callLookMs = lookedMs = ms;
    for (let at = 0; at < depth; at++) before[at] = calls[at]!;
    before[depth] = id;
    calls[LOOK_COUNTDOWN] = -1;
  };

  return {
    calls,
    counts,
    takesLooks: !isShared,
    look,
    lookAtCall: keptApart((id) => {
      if (isLooking) return;
      if (!on) {
        const slot = slotOf(id);
        counts[slot] = NO_LOOK_AT_CALLS;
        demoted.push(slot);
        return;
      }
      isLooking = true;
      try {
        lookAtCallNow(id);
      } finally {
        isLooking = false;
      }
    }),
    leaveRoot: keptApart(() => {
      if (!on || isLooking) return;
      isLooking = true;
      try {
        if (calledOutOf !== 0) endCallOut((lookedMs = now()));
        else if (mayCall && lookedRun === run) endLine(now());
        held.release();
      } finally {
        isLooking = false;
      }
      if (++runsSinceIdle > FLOOD_RUNS && runsSinceIdle % FLOOD_RUNS !== 0) return;
      run++;
      owed = [];
      calls[LOOK_COUNTDOWN] = -1;
    }),
    enter: isShared ? enterUnlooked : enter,
    enterAgain(id, position) {
      const depth = this.enter(id);
      calls[depth] = position;
      return depth;
    },
    leaveWaiting() {
      if (calls[0]! > 0 && --calls[0]! === 0) this.leaveRoot();
      return 0;
    },
    switch(wanted) {
      if (!wanted) handOver(now());
      on = wanted && !isShared;
      calls[LOOK_COUNTDOWN] = on ? -1 : NO_LOOK;
      if (!on) return;
      if (clockMs === 0) {
        clockMs = measureClock().readMs;
        maxUnseen = (READS_A_CALL * clockMs) / LOOKS_A_QUICK_CALL_MS;
      }
      for (const slot of demoted) counts[slot] = 0;
      demoted = [];
      run++;
      calledOutOf = 0;
    },
    unwind() {
      calls[0] = 0;
      if (on && lookedRun === run) this.leaveRoot();
    },
    handOver: () => handOver(now()),
  };
}
