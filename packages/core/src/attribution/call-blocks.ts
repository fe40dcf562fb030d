import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION, ownerOf, type Owner } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { canonicalFunction } from './call-path';
import type { Certainty, Segment } from './segments';
import { innermostFunction, innermostOwn, stackFacts } from './stack-facts';

/** A stretch during which one function was on the stack. */
export interface CallBlock {
  readonly functionId: number;
  /** Number of callers that are drawn above it. */
  readonly depth: number;
  readonly startMs: number;
  readonly endMs: number;
  readonly owner: Owner;
  readonly certainty: Certainty;
}

type Growing = { -readonly [Key in keyof CallBlock]: CallBlock[Key] };

/** Library code that own code called; `depth` is that of the row under the own code. */
export type LibraryStem = CallBlock;

/** Two looks at the same function further apart than this are drawn as two blocks. */
const JOIN_GAP_MS = 0.001;

/** The functions that are drawn of a segment: the own ones, or all where none is own. */
function drawnPath(recording: Recording, { stack, entry }: Segment): readonly number[] {
  if (stack !== NO_STACK) return stackFacts(recording).drawnPath(stack);
  return entry === UNKNOWN_FUNCTION ? [] : [canonicalFunction(recording, entry)];
}

/**
 * Call blocks for drawing: neighbouring segments with the same function at the same depth become one block.
 * Libraries called from own code are left out; see `libraryStems`.
 */
export function callBlocks(recording: Recording, segments: Iterable<Segment>): CallBlock[] {
  const done: CallBlock[] = [];
  let open: Growing[] = [];
  for (const segment of segments) {
    const path = drawnPath(recording, segment);
    let shared = 0;
    while (
      shared < path.length &&
      shared < open.length &&
      open[shared]!.functionId === path[shared] &&
      segment.startMs - open[shared]!.endMs <= JOIN_GAP_MS
    ) {
      open[shared++]!.endMs = segment.endMs;
    }
    done.push(...open.slice(shared));
    open = open.slice(0, shared);
    for (let depth = shared; depth < path.length; depth++) {
      const functionId = path[depth]!;
      const { startMs, endMs, certainty } = segment;
      const owner = ownerOf(recording.functions.get(functionId));
      open.push({ functionId, depth, startMs, endMs, owner, certainty });
    }
  }
  return [...done, ...open].sort((a, b) => a.startMs - b.startMs || a.depth - b.depth);
}

/** Stretches in which own code had called a library, each under the own function that called it. */
export function libraryStems(recording: Recording, segments: Iterable<Segment>): LibraryStem[] {
  const stems: Growing[] = [];
  for (const segment of segments) {
    const { startMs, endMs, certainty } = segment;
    const own = innermostOwn(recording, segment);
    const functionId = innermostFunction(recording, segment);
    if (functionId === undefined || own === undefined || functionId === own) continue;
    const { length: depth } = drawnPath(recording, segment);
    const last = stems.at(-1);
    if (last?.functionId === functionId && startMs - last.endMs <= JOIN_GAP_MS) last.endMs = endMs;
    else stems.push({ functionId, depth, startMs, endMs, owner: 'library', certainty });
  }
  return stems;
}
