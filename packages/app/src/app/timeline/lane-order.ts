import type { LaneInfo } from '../../workers/analysis/queries/timeline-queries';

/** How lanes are shown, as it is kept: ids of lanes that may or may not be in a recording. */
export interface LanePreferences {
  readonly order: readonly string[];
  readonly hidden: readonly string[];
  readonly folded: readonly string[];
}

/** Lanes in the order that was kept; those that were never moved stay after the one they followed at first. */
export function inOrder(lanes: readonly LaneInfo[], order: readonly string[]): LaneInfo[] {
  const known = order.flatMap((id) => lanes.find((lane) => lane.id === id) ?? []);
  const sorted = [...known];
  lanes.forEach((lane, at) => {
    if (sorted.includes(lane)) return;
    const before = lanes.slice(0, at).findLast((other) => sorted.includes(other));
    sorted.splice(before === undefined ? 0 : sorted.indexOf(before) + 1, 0, lane);
  });
  return sorted;
}

/** The order after one lane was moved up or down among those that are shown. @param step -1 or 1 */
export function moved(shown: readonly LaneInfo[], id: string, step: number): string[] {
  const ids = shown.map((lane) => lane.id);
  const from = ids.indexOf(id);
  const to = from + step;
  if (from < 0 || to < 0 || to >= ids.length) return ids;
  ids.splice(to, 0, ...ids.splice(from, 1));
  return ids;
}

/** A list with something added or taken out. */
export function toggled(list: readonly string[], id: string): string[] {
  return list.includes(id) ? list.filter((one) => one !== id) : [...list, id];
}
