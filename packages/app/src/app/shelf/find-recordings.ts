import type { StoredRecording } from '../../store/database';
import type { ORDERS } from '../../store/preferences';

export type Order = (typeof ORDERS)[number];

const COMPARE: Record<Order, (a: StoredRecording, b: StoredRecording) => number> = {
  newest: (a, b) => (a.createdAt < b.createdAt ? 1 : -1),
  oldest: (a, b) => (a.createdAt < b.createdAt ? -1 : 1),
  worst: (a, b) => worstDelayMs(b) - worstDelayMs(a),
  title: (a, b) => a.title.localeCompare(b.title, 'en', { numeric: true }),
  largest: (a, b) => b.bytes - a.bytes,
};

/** Those without a delay beyond its budget come after those with one, and those not looked at last. */
function worstDelayMs({ verdict }: StoredRecording): number {
  if (verdict === undefined) return -1;
  return verdict.worstIsRate === true ? 0 : verdict.worstMs;
}

/** Which recordings of the shelf are shown. */
export interface Wanted {
  /** Words that must all be found in the title, the target, the device or a tag. */
  readonly text: string;
  readonly tag: string | undefined;
  readonly order: Order;
}

/** The recordings that are wanted, in the order that is wanted. */
export function findRecordings(
  recordings: readonly StoredRecording[],
  { text, tag, order }: Wanted,
): StoredRecording[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const holds = ({ title, targetTitle, targetUrl, engine, device, mode, tags }: StoredRecording) => {
    const all = [title, targetTitle, targetUrl, engine, device, mode, ...tags].join(' ').toLowerCase();
    return words.every((word) => all.includes(word));
  };
  return recordings
    .filter((recording) => (tag === undefined || recording.tags.includes(tag)) && holds(recording))
    .sort(COMPARE[order]);
}

/** All tags, those on most recordings first, each with their number. */
export function tagsOf(recordings: readonly StoredRecording[]): { tag: string; count: number }[] {
  const counts = new Map<string, number>();
  for (const { tags } of recordings) for (const tag of tags) counts.set(tag, (counts.get(tag) ?? 0) + 1);
  return [...counts]
    .map(([tag, count]) => ({ tag, count }))
    .sort((a, b) => b.count - a.count || (a.tag < b.tag ? -1 : 1));
}
