/**
 * The line of a loop at which a countdown of what is done ended, where that is only looked at behind the loop.
 * @param lines ids of its lines, in the order in which each turn takes them, and behind each what is done there
 * @param doneSince what was done since the countdown ended, at least 1
 */
export function lineReached(lines: readonly number[], doneSince: number): number {
  let turn = 0;
  for (let at = 1; at < lines.length; at += 2) turn += lines[at]!;
  let left = (doneSince - 1) % turn;
  let at = lines.length - 1;
  while (at > 1 && (left -= lines[at]!) >= 0) at -= 2;
  return lines[at - 1]!;
}
