/** Puts items into random order where they stand (Fisher and Yates). @param random gives numbers from 0 up to 1 */
export function shuffle(
  items: { [at: number]: unknown; readonly length: number },
  random: () => number,
): void {
  for (let at = items.length - 1; at > 0; at--) {
    const other = Math.floor(random() * (at + 1));
    [items[at], items[other]] = [items[other], items[at]];
  }
}
