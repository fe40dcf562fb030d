import { WIDE_LENS, type Lens } from '../calls/lens';
import { tallyCalls } from '../calls/tally';
import { NO_STACK } from '../format/packed-samples';
import { displayName, displayPlace } from '../recording/functions';
import type { Recording } from '../recording/recording';
import type { StackTable } from '../recording/stack-table';
import { isTime, weightUnit } from '../recording/weights';

/** What is called deeper is charged to the call at this depth, or a few deep stacks would fill a disk. */
const MAX_DEPTH = 1000;
/** Weights are written to so many digits behind the point: microseconds to the picosecond. */
const DIGITS = 6;

/** A name that may stand in a folded stack: no semicolon, no line end; as it was read, where it was read from such. */
function foldedName(recording: Recording, functionId: number): string {
  const recorded = recording.functions.get(functionId);
  const place = displayPlace(recorded, recording.sources.get(recorded?.source ?? -1));
  const named = place === '' ? displayName(recorded) : `${displayName(recorded)} (${place})`;
  const name = recording.header.timeless === true && recorded?.name ? recorded.name : named;
  return name.replaceAll(/[;\r\n]/g, ' ');
}

/** Depth of each node, from 1. */
function depthsOf(nodes: StackTable): Uint32Array {
  const depths = new Uint32Array(nodes.length);
  for (let node = 0; node < depths.length; node++) {
    const caller = nodes.parentOf(node);
    depths[node] = caller === NO_STACK ? 1 : depths[caller]! + 1;
  }
  return depths;
}

/**
 * Folded stacks: a line each with the functions from the outermost inwards, parted by semicolons, a space, and what the
 * stack took itself. The first line says in what unit: microseconds, or what the recording carries in place of times.
 * Times of the day are lost.
 */
export function* foldedStacks(recording: Recording, lens: Lens = WIDE_LENS): Generator<string> {
  const { nodes, selfMs } = tallyCalls(recording, lens);
  const unit = weightUnit(recording.header);
  const scale = isTime(unit) ? 1000 : 1;
  const depths = depthsOf(nodes);
  const weights = Float64Array.from(selfMs);
  for (let node = nodes.length - 1; node >= 0; node--) {
    if (depths[node]! <= MAX_DEPTH) continue;
    weights[nodes.parentOf(node)]! += weights[node]!;
    weights[node] = 0;
  }
  yield `# unit: ${isTime(unit) ? 'microseconds' : unit}`;
  if (depths.some((depth) => depth > MAX_DEPTH)) {
    yield `# calls deeper than ${MAX_DEPTH} are charged to the call at that depth`;
  }
  for (let node = 0; node < nodes.length; node++) {
    const weight = Number((weights[node]! * scale).toFixed(DIGITS));
    if (weight <= 0) continue;
    const names = nodes.path(node).map((id) => foldedName(recording, id));
    yield `${names.join(';')} ${weight}`;
  }
}
