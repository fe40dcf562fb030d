/** Whether no value is less than the one before it. */
export function isAscending(values: ArrayLike<number>): boolean {
  for (let index = 1; index < values.length; index++) if (values[index]! < values[index - 1]!) return false;
  return true;
}

/**
 * Indexes in order of their values; of equal values, in order of the index. Runs that ascend already are merged pair
 * by pair (natural merge sort, Knuth, The Art of Computer Programming, volume 3, section 5.2.4), so that values that
 * come from a few sorted sources cost little more than one pass a source.
 */
export function stableOrder(values: ArrayLike<number>): Uint32Array {
  let from = Uint32Array.from({ length: values.length }, (_, index) => index);
  let runs = runsOf(values);
  if (runs.length <= 2) return from;
  let to = new Uint32Array(values.length);
  while (runs.length > 2) {
    const merged = [0];
    for (let run = 0; run < runs.length - 1; run += 2) {
      const middle = runs[run + 1]!;
      const end = runs[run + 2] ?? middle;
      mergeRuns(values, from, to, runs[run]!, middle, end);
      merged.push(end);
    }
    runs = merged;
    [from, to] = [to, from];
  }
  return from;
}

/** Where ascending runs begin, and the end of the last. */
function runsOf(values: ArrayLike<number>): number[] {
  const runs = [0];
  for (let index = 1; index < values.length; index++) {
    if (values[index]! < values[index - 1]!) runs.push(index);
  }
  if (values.length > 0) runs.push(values.length);
  return runs;
}

function mergeRuns(
  values: ArrayLike<number>,
  from: Uint32Array,
  to: Uint32Array,
  start: number,
  middle: number,
  end: number,
): void {
  let left = start;
  let right = middle;
  for (let at = start; at < end; at++) {
    const takesLeft = left < middle && (right >= end || values[from[left]!]! <= values[from[right]!]!);
    to[at] = takesLeft ? from[left++]! : from[right++]!;
  }
}
