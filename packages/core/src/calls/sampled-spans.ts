import { sampledSegments } from '../attribution/sampled-segments';
import { partition } from '../attribution/partition';
import { KIND_CODES, kindOfCode, type Segment, type SegmentList } from '../attribution/segments';
import { NO_STACK } from '../format/packed-samples';
import { CallSpans } from '../recording/call-spans';
import { UNKNOWN_FUNCTION, UNSEEN_SCRIPT, engineFunction } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { CanonicalStacks } from './canonical-stacks';

/** Two looks further apart than this are two calls. */
const JOIN_GAP_MS = 0.001;

/** Calls nested deeper are charged to the one at this depth. */
const MAX_DEPTH = 60_000;

/** Kinds of segments in which a function may have run. */
const RUNS = Array.from({ length: KIND_CODES }, (_, code) => {
  const { activity } = kindOfCode(code);
  return activity !== 'idle' && activity !== 'unexplained' && activity !== 'drawing';
});

interface OpenSpan {
  readonly stack: number;
  readonly index: number;
}

/** The stack a segment stands for, with the engine's work as its innermost function; NO_STACK where nothing ran. */
function stackOf(stacks: CanonicalStacks, { activity, stack, entry }: Segment): number {
  const known = stack !== NO_STACK || entry !== UNKNOWN_FUNCTION;
  if (!known) return activity === 'script' ? stacks.calledFrom(NO_STACK, UNSEEN_SCRIPT) : NO_STACK;
  const caller = stack === NO_STACK ? stacks.calledFrom(NO_STACK, entry) : stacks.of(stack);
  switch (activity) {
    case 'script':
      return caller;
    case 'style':
    case 'layout':
    case 'paint':
    case 'collection':
    case 'other':
      return stacks.calledFrom(caller, engineFunction(activity));
    default:
      return NO_STACK;
  }
}

/**
 * Call spans told by samples and by entries into script, where no exact call tells more: a function that was seen on
 * the stack at several looks in a row is taken to have run once all the while.
 */
export function sampledSpans(recording: Recording, thread: number): CallSpans {
  return spansOf(recording, sampledSegments(recording, thread).segments);
}

/** The same of everything that is known of a thread, what was timed exactly included. */
export function spansOfPartition(recording: Recording, thread: number): CallSpans {
  return spansOf(recording, partition(recording, thread, recording.range));
}

function spansOf(recording: Recording, segments: SegmentList): CallSpans {
  const stacks = new CanonicalStacks(recording);
  const startsUs: number[] = [];
  const endsUs: number[] = [];
  const stackIds: number[] = [];
  const depths: number[] = [];
  let open: OpenSpan[] = [];
  let lastMs = -Infinity;
  for (let index = 0; index < segments.length; index++) {
    if (!RUNS[segments.codeOf(index)]) continue;
    const segment = segments.at(index);
    const innermost = stackOf(stacks, segment);
    if (innermost === NO_STACK) continue;
    const path: number[] = [];
    for (let at = innermost; at !== NO_STACK; at = recording.stacks.parentOf(at)) path.push(at);
    path.reverse();
    if (path.length > MAX_DEPTH) path.length = MAX_DEPTH;
    let shared = 0;
    const joins = segment.startMs - lastMs <= JOIN_GAP_MS;
    while (joins && shared < path.length && open[shared]?.stack === path[shared]) shared++;
    open = open.slice(0, shared);
    const [startUs, endUs] = [segment.startMs * 1000, segment.endMs * 1000];
    for (const { index } of open) endsUs[index] = endUs;
    for (let depth = shared; depth < path.length; depth++) {
      open.push({ stack: path[depth]!, index: startsUs.length });
      startsUs.push(startUs);
      endsUs.push(endUs);
      stackIds.push(path[depth]!);
      depths.push(depth);
    }
    lastMs = segment.endMs;
  }
  return new CallSpans({
    startsUs: Float64Array.from(startsUs),
    endsUs: Float64Array.from(endsUs),
    stacks: Int32Array.from(stackIds),
    depths: Uint16Array.from(depths),
  });
}
