/**
 * The first index from which on something holds, by halving.
 * @param length of what is searched, in which it holds for all after the first for which it does
 * @returns `length` where it holds for none
 */
export function firstIndex(length: number, holds: (index: number) => boolean): number {
  let low = 0;
  let high = length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
