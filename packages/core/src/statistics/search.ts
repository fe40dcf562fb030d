/**
 * The first index from which on something holds, by halving: the one binary search of the project.
 *
 *     const first = firstIndex(starts.length, (at) => starts[at]! >= ms);
 *
 * @param to the end of what is searched, in which it holds for all after the first for which it does
 * @param from where the search begins
 * @returns `to` where it holds for none
 */
export function firstIndex(to: number, holds: (index: number) => boolean, from = 0): number {
  let low = from;
  let high = to;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
