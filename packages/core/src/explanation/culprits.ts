import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION, isOwnFunction } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { canonicalFunction } from '../attribution/call-path';
import { SegmentList, type Segment, type StackTime } from '../attribution/segments';
import { stackFacts } from '../attribution/stack-facts';

/** What one function contributed to a delay. Milliseconds. */
export interface Culprit {
  readonly functionId: number;
  /** Time in its own code. */
  readonly selfMs: number;
  /** Time in libraries and the engine that it called directly or through them. */
  readonly attributedMs: number;
  /** Time that is charged to it: its own, and that of the libraries and the engine it called. The ranking goes by it. */
  readonly chargedMs: number;
  /** Style and layout forced from it. */
  readonly forcedMs: number;
  /** Of all this, time in which it was not seen running but is concluded to have been (see `fillMissingStacks`). */
  readonly inferredMs: number;
  /** Of all this, time told by exact calls. */
  readonly exactMs: number;
  /** Of its own time, that of entries into it of which nothing else is known: it may have called others in it. */
  readonly entryMs: number;
  /** How often it was called, where exact calls tell. */
  readonly count: number;
  /** Time during which it was on the stack. */
  readonly totalMs: number;
  /**
   * The delay that would be saved at most if it were not called: what it called would go with it, as far as nobody else
   * needs that. An upper bound, so never less than what is charged to it.
   */
  readonly savedMs: number;
  /** Where in it that was, the lines with the most time first; none where lines are not known. */
  readonly hotLines: readonly HotLine[];
}

/** The time that was charged to one line of a function. */
export interface HotLine {
  /** From 1, in the file of the function. */
  readonly line: number;
  /** Its own time, and that of libraries and the engine it called. Milliseconds. */
  readonly chargedMs: number;
}

/** Nothing, of no function. */
export const NO_CULPRIT: Culprit = {
  functionId: UNKNOWN_FUNCTION,
  selfMs: 0,
  attributedMs: 0,
  chargedMs: 0,
  forcedMs: 0,
  inferredMs: 0,
  exactMs: 0,
  entryMs: 0,
  count: 0,
  totalMs: 0,
  savedMs: 0,
  hotLines: [],
};

type Tally = { -readonly [Key in keyof Culprit]: Culprit[Key] };

/**
 * Functions ranked by the time charged to them. Every moment with a known stack is charged once, to the innermost own
 * function, so what is charged sums to the time with known code.
 * @param counts how often each function was called in the time of the segments
 */
export function culpritsOf(
  recording: Recording,
  segments: Iterable<Segment>,
  counts: ReadonlyMap<number, number> = new Map(),
): Culprit[] {
  return functionsOf(recording, segments, counts)
    .filter(({ chargedMs }) => chargedMs > 0)
    .sort((a, b) => b.chargedMs - a.chargedMs);
}

/** The same of all functions that were on a stack, in the order they were met: an outer one comes before what it called. */
export function functionsOf(
  recording: Recording,
  segments: Iterable<Segment>,
  counts: ReadonlyMap<number, number> = new Map(),
): Culprit[] {
  const tallies = new Map<number, Tally>();
  const tallyOf = (functionId: number): Tally => {
    let tally = tallies.get(functionId);
    if (tally === undefined) {
      tally = { ...NO_CULPRIT, functionId, count: counts.get(functionId) ?? 0 };
      tallies.set(functionId, tally);
    }
    return tally;
  };
  const facts = stackFacts(recording);
  const onStacks = new Map<number, number>();
  const times = stackTimes(segments);
  for (const { stack, entry, lengthMs } of times) {
    if (stack !== NO_STACK) onStacks.set(stack, (onStacks.get(stack) ?? 0) + lengthMs);
    else if (entry !== UNKNOWN_FUNCTION) tallyOf(canonicalFunction(recording, entry)).totalMs += lengthMs;
  }
  for (const [functionId, totalMs] of totalsOf(recording, onStacks)) tallyOf(functionId).totalMs += totalMs;
  const lines = new LineTimes(recording);
  for (const time of times) {
    const { stack, entry, lengthMs } = time;
    if (stack === NO_STACK && entry === UNKNOWN_FUNCTION) continue;
    const isStack = stack !== NO_STACK;
    const innermost = isStack ? facts.innermost(stack) : canonicalFunction(recording, entry);
    const charged = isStack ? facts.charged(stack) : innermost;
    const tally = tallyOf(charged);
    tally.chargedMs += lengthMs;
    if (isStack) lines.add(charged, facts.chargedStack(stack), lengthMs);
    if (isInferredScript(time)) tally.inferredMs += lengthMs;
    if (time.certainty === 'measured' && isStack) tally.exactMs += lengthMs;
    if (!isStack) tally.entryMs += lengthMs;
    if (time.activity !== 'script') tally.forcedMs += lengthMs;
    else if (charged === innermost) tally.selfMs += lengthMs;
    else tally.attributedMs += lengthMs;
  }
  for (const tally of tallies.values()) {
    tally.savedMs = tally.totalMs;
    tally.hotLines = lines.of(tally.functionId);
  }
  return [...tallies.values()];
}

function stackTimes(segments: Iterable<Segment>): readonly StackTime[] {
  if (segments instanceof SegmentList) return segments.stackTimes();
  return Array.from(segments, (one) => ({ ...one, lengthMs: one.endMs - one.startMs }));
}

/** Time by line of functions, as far as lines are known. */
class LineTimes {
  readonly #byFunction = new Map<number, Map<number, number>>();

  constructor(private readonly recording: Recording) {}

  /** @param stack whose innermost function it is */
  add(functionId: number, stack: number, ms: number): void {
    const line = this.recording.stacks.lineOf(stack);
    if (line === 0) return;
    let lines = this.#byFunction.get(functionId);
    if (lines === undefined) this.#byFunction.set(functionId, (lines = new Map()));
    lines.set(line, (lines.get(line) ?? 0) + ms);
  }

  of(functionId: number): readonly HotLine[] {
    const lines = this.#byFunction.get(functionId);
    if (lines === undefined) return [];
    return Array.from(lines, ([line, chargedMs]) => ({ line, chargedMs })).sort(
      (a, b) => b.chargedMs - a.chargedMs || a.line - b.line,
    );
  }
}

/** The first own one of some culprits, the one that has most to do with it. */
export function firstOwn(recording: Recording, culprits: readonly Culprit[]): Culprit | undefined {
  return culprits.find(({ functionId }) => isOwnFunction(recording, functionId));
}

/**
 * Time during which each function was on the stack, a call inside another of it counted once; an outer function comes
 * before what it called. One step a stack, however deep.
 * @param onStacks milliseconds by stack
 */
function totalsOf(recording: Recording, onStacks: ReadonlyMap<number, number>): Map<number, number> {
  const { stacks } = recording;
  const facts = stackFacts(recording);
  const below = new Map<number, number>();
  for (const stack of onStacks.keys()) {
    for (let at = stack; at !== NO_STACK && !below.has(at); at = stacks.parentOf(at)) below.set(at, 0);
  }
  const ascending = [...below.keys()].sort((a, b) => a - b);
  for (const stack of ascending.toReversed()) {
    const ms = below.get(stack)! + (onStacks.get(stack) ?? 0);
    below.set(stack, ms);
    const caller = stacks.parentOf(stack);
    if (caller !== NO_STACK) below.set(caller, below.get(caller)! + ms);
  }
  const totals = new Map<number, number>();
  for (const stack of ascending) {
    if (!facts.isOutermostOfFunction(stack)) continue;
    const functionId = facts.innermost(stack);
    totals.set(functionId, (totals.get(functionId) ?? 0) + below.get(stack)!);
  }
  return totals;
}

function isInferredScript({ activity, certainty }: Pick<Segment, 'activity' | 'certainty'>): boolean {
  return activity === 'script' && certainty === 'inferred';
}

/** Script time for which the engine gave no stack, so that its function is only concluded. Milliseconds. */
export function unseenMs(segments: Iterable<Segment>): number {
  let sum = 0;
  for (const segment of segments) if (isInferredScript(segment)) sum += segment.endMs - segment.startMs;
  return sum;
}
