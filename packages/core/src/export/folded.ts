import { WIDE_LENS, type Lens } from '../calls/lens';
import { tallyCalls } from '../calls/tally';
import { displayName, displayPlace, shortPlace } from '../recording/functions';
import type { Recording } from '../recording/recording';

/** A name that may stand in a folded stack: no semicolon, no line end. */
function foldedName(recording: Recording, functionId: number): string {
  const recorded = recording.functions.get(functionId);
  const place = displayPlace(recorded, recording.sources.get(recorded?.source ?? -1));
  const name = place === '' ? displayName(recorded) : `${displayName(recorded)} (${shortPlace(place)})`;
  return name.replaceAll(/[;\r\n]/g, ' ');
}

/**
 * Folded stacks: a line each with the functions from the outermost inwards, parted by semicolons, a space, and the
 * self time in whole microseconds. Times of the day are lost.
 */
export function* foldedStacks(recording: Recording, lens: Lens = WIDE_LENS): Generator<string> {
  const { nodes, selfMs } = tallyCalls(recording, lens);
  for (let node = 0; node < nodes.length; node++) {
    const us = Math.round(selfMs[node]! * 1000);
    if (us <= 0) continue;
    yield `${nodes
      .path(node)
      .map((id) => foldedName(recording, id))
      .join(';')} ${us}`;
  }
}
