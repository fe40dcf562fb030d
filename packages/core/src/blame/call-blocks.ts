import { ownerOf, type Owner } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { callPath } from './call-path';
import type { Certainty, Segment } from './segments';

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

/** The own functions of a path; all of it where none is own. */
function ownFirst(recording: Recording, path: readonly number[]): readonly number[] {
  const own = path.filter((id) => ownerOf(recording.functions.get(id)) === 'own');
  return own.length > 0 ? own : path;
}

/**
 * Call blocks for drawing: neighbouring segments with the same function at the same depth become one block.
 * Libraries called from own code are left out; see `libraryStems`.
 */
export function callBlocks(recording: Recording, segments: Iterable<Segment>): CallBlock[] {
  const done: CallBlock[] = [];
  let open: Growing[] = [];
  for (const segment of segments) {
    const path = ownFirst(recording, callPath(recording, segment));
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
  for (const { startMs, endMs, certainty, ...rest } of segments) {
    const path = callPath(recording, { startMs, endMs, certainty, ...rest });
    const own = ownFirst(recording, path);
    const functionId = path.at(-1);
    if (functionId === undefined || functionId === own.at(-1)) continue;
    const last = stems.at(-1);
    if (last?.functionId === functionId && startMs - last.endMs <= JOIN_GAP_MS) last.endMs = endMs;
    else stems.push({ functionId, depth: own.length, startMs, endMs, owner: 'library', certainty });
  }
  return stems;
}
