/**
 * How likely it is that what came so often came all on one of two sides, either of them, where it is as frequent on both:
 * the exact conditional test of two Poisson rates (Przyborowski and Wilenski 1940, Biometrika 31).
 * @param times on both sides together
 * @param share of the time that was watched which lies on the one side, 0 to 1
 */
export function onOneSideChance(times: number, share: number): number {
  return Math.min(1, share ** times + (1 - share) ** times);
}

/**
 * The same of loads, in each of which something is seen or not: Fisher's exact test (Fisher 1935, The Design of
 * Experiments).
 * @param seen loads in which it was seen
 * @param own loads of the one side
 * @param other loads of the other
 */
export function loadsOnOneSideChance(seen: number, own: number, other: number): number {
  const allOn = (count: number) => {
    let chance = 1;
    for (let at = 0; at < seen; at++) chance *= Math.max(0, count - at) / (own + other - at);
    return chance;
  };
  return Math.min(1, allOn(own) + allOn(other));
}
