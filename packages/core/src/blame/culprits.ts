import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION, ownerOf } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { callPath } from './call-path';
import type { Segment } from './segments';

/** What one function contributed to a delay. Milliseconds. */
export interface Culprit {
  readonly functionId: number;
  /** Time in its own code. */
  readonly selfMs: number;
  /** Time in libraries and the engine that it called directly or through them. */
  readonly broughtMs: number;
  /** Time that is charged to it: its own, and that of the libraries and the engine it called. The ranking goes by it. */
  readonly chargedMs: number;
  /** Style and layout forced from it. */
  readonly forcedMs: number;
  /** Of all this, time in which it was not seen running but is concluded to have been (see `fillUnseen`). */
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
}

/** Nothing, of no function. */
export const NO_CULPRIT: Culprit = {
  functionId: UNKNOWN_FUNCTION,
  selfMs: 0,
  broughtMs: 0,
  chargedMs: 0,
  forcedMs: 0,
  inferredMs: 0,
  exactMs: 0,
  entryMs: 0,
  count: 0,
  totalMs: 0,
  savedMs: 0,
};

type Tally = { -readonly [Key in keyof Culprit]: Culprit[Key] };

/** The function a moment is charged to: the innermost own one, or the innermost of all where none is own. */
function chargedIndex(recording: Recording, path: readonly number[]): number {
  for (let at = path.length - 1; at >= 0; at--) {
    if (ownerOf(recording.functions.get(path[at]!)) === 'own') return at;
  }
  return path.length - 1;
}

interface ChargedPath {
  readonly path: readonly number[];
  readonly functions: readonly number[];
  /** Place in the path of the function that is charged. */
  readonly charged: number;
}

function chargedPath(recording: Recording, segment: Segment): ChargedPath {
  const path = callPath(recording, segment);
  return { path, functions: [...new Set(path)], charged: chargedIndex(recording, path) };
}

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
      tally = { ...NO_CULPRIT, functionId };
      tallies.set(functionId, tally);
    }
    return tally;
  };
  const known = new Map<number, ChargedPath>();
  for (const segment of segments) {
    const key = segment.stack === NO_STACK ? -2 - segment.entry : segment.stack;
    let charge = known.get(key);
    if (charge === undefined) known.set(key, (charge = chargedPath(recording, segment)));
    const { path, functions, charged } = charge;
    if (path.length === 0) continue;
    const lengthMs = segment.endMs - segment.startMs;
    for (const functionId of functions) tallyOf(functionId).totalMs += lengthMs;
    const tally = tallyOf(path[charged]!);
    tally.chargedMs += lengthMs;
    if (isInferredScript(segment)) tally.inferredMs += lengthMs;
    if (segment.certainty === 'measured' && segment.stack !== NO_STACK) tally.exactMs += lengthMs;
    if (segment.stack === NO_STACK) tally.entryMs += lengthMs;
    if (segment.activity !== 'script') tally.forcedMs += lengthMs;
    else if (charged === path.length - 1) tally.selfMs += lengthMs;
    else tally.broughtMs += lengthMs;
  }
  for (const tally of tallies.values()) {
    tally.count = counts.get(tally.functionId) ?? 0;
    tally.savedMs = tally.totalMs;
  }
  return [...tallies.values()];
}

function isInferredScript({ activity, certainty }: Segment): boolean {
  return activity === 'script' && certainty === 'inferred';
}

/** Script time for which the engine gave no stack, so that its function is only concluded. Milliseconds. */
export function unseenMs(segments: Iterable<Segment>): number {
  let sum = 0;
  for (const segment of segments) if (isInferredScript(segment)) sum += segment.endMs - segment.startMs;
  return sum;
}
