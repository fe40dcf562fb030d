import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION } from '../recording/functions';
import { functionIdentities } from '../recording/function-identities';
import type { Recording } from '../recording/recording';
import type { Segment } from './segments';

/** The one id that stands for a function that was met under several. */
export function canonicalFunction(recording: Recording, id: number): number {
  return functionIdentities(recording).get(id) ?? id;
}

/** Functions running during a segment, from the outermost inwards; empty when none is known. */
export function callPath(recording: Recording, segment: Segment): number[] {
  if (segment.stack !== NO_STACK) {
    return recording.stacks.path(segment.stack).map((id) => canonicalFunction(recording, id));
  }
  return segment.entry === UNKNOWN_FUNCTION ? [] : [canonicalFunction(recording, segment.entry)];
}
