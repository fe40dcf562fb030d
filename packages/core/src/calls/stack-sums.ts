import type { CallSpans } from '../recording/call-spans';

/** What of calls is added up, in microseconds. */
export interface SummedRange {
  readonly startUs: number;
  readonly endUs: number;
  /** Calls shorter than this are left out. */
  readonly minUs: number;
}

/** Numbers a stack in the sums: time within the range, number of calls, length of the shortest and of the longest. */
export const SUMS = 4;
export const TOTAL = 0;
export const HITS = 1;
export const MIN = 2;
export const MAX = 3;

/** Ranges kept: the views of one lens ask for the same, one after the other. */
const MAX_KEPT = 3;

interface Kept extends SummedRange {
  readonly sums: Float64Array;
}

const kept = new WeakMap<CallSpans, Kept[]>();

/**
 * The calls of a range added up by stack, SUMS numbers for each, side by side as they are written together. They do
 * not depend on how a lens folds, so all views of a range share them.
 * @param stackCount number of stacks of the recording
 */
export function stackSums(spans: CallSpans, stackCount: number, range: SummedRange): Float64Array {
  let known = kept.get(spans);
  if (known === undefined) kept.set(spans, (known = []));
  const { startUs, endUs, minUs } = range;
  const same = known.find((one) => one.startUs === startUs && one.endUs === endUs && one.minUs === minUs);
  if (same !== undefined) return same.sums;
  const sums = addUp(spans, stackCount, range);
  known.unshift({ ...range, sums });
  known.length = Math.min(known.length, MAX_KEPT);
  return sums;
}

/** The loop is plain: it runs over every call of a recording. */
function addUp(spans: CallSpans, stackCount: number, { startUs, endUs, minUs }: SummedRange): Float64Array {
  const { startsUs, endsUs, stacks } = spans;
  const sums = new Float64Array(stackCount * SUMS);
  for (let place = MIN; place < sums.length; place += SUMS) sums[place] = Infinity;
  const open = spans.openAt(startUs);
  const first = spans.firstFrom(startUs);
  const last = spans.firstFrom(endUs);
  for (let at = first - open.length; at < last; at++) {
    const index = at < first ? open[at - first + open.length]! : at;
    const fromUs = startsUs[index]!;
    const toUs = endsUs[index]!;
    const wholeUs = toUs - fromUs;
    if (wholeUs < minUs) continue;
    const place = stacks[index]! * SUMS;
    sums[place] = sums[place]! + (toUs < endUs ? toUs : endUs) - (fromUs > startUs ? fromUs : startUs);
    sums[place + HITS] = sums[place + HITS]! + 1;
    if (wholeUs < sums[place + MIN]!) sums[place + MIN] = wholeUs;
    if (wholeUs > sums[place + MAX]!) sums[place + MAX] = wholeUs;
  }
  return sums;
}
