import { ownerOf, type Owner } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { callPath } from './call-path';
import type { Activity, Certainty, Segment } from './segments';

/** A stretch during which one function was at one depth of the stack, or forced layout lay under it. */
export interface CallBlock {
  readonly functionId: number;
  readonly depth: number;
  readonly startMs: number;
  readonly endMs: number;
  readonly owner: Owner;
  readonly activity: Activity;
  readonly certainty: Certainty;
}

type Growing = { -readonly [Key in keyof CallBlock]: CallBlock[Key] };

/** Two looks at the same function further apart than this are drawn as two blocks. */
const JOIN_GAP_MS = 0.001;

/**
 * Call blocks for drawing: neighbouring segments with the same function at the same depth become one block.
 * Forced layout has no block of its own here; it belongs to the function it was forced from.
 */
export function callBlocks(recording: Recording, segments: Iterable<Segment>): CallBlock[] {
  const done: CallBlock[] = [];
  let open: Growing[] = [];
  for (const segment of segments) {
    const path = callPath(recording, segment);
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
      open.push({
        functionId,
        depth,
        startMs: segment.startMs,
        endMs: segment.endMs,
        owner: ownerOf(recording.functions.get(functionId)),
        activity: 'script',
        certainty: segment.certainty === 'inferred' ? 'sampled' : segment.certainty,
      });
    }
  }
  return [...done, ...open].sort((a, b) => a.startMs - b.startMs || a.depth - b.depth);
}
