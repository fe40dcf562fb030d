/**
 * Which of several tests hold together at an error rate: the chance that any of them is called where nothing is there
 * stays below it (Holm 1979, Scandinavian Journal of Statistics 6).
 * @param chances p of each test
 * @param rate error rate over all of them, 0 to 1
 */
export function holm(chances: readonly number[], rate: number): boolean[] {
  const holds = chances.map(() => false);
  const order = chances.map((_, at) => at).sort((a, b) => chances[a]! - chances[b]!);
  for (const [rank, at] of order.entries()) {
    if (chances[at]! > rate / (chances.length - rank)) break;
    holds[at] = true;
  }
  return holds;
}
