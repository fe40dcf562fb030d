import { fromBase64, toBase64 } from './base64';
import type { RowContent } from './rows';
import { VarintReader, VarintWriter } from './varint';

/** How often functions were called: two columns of equal length. */
export interface CountColumns {
  /** Ids of functions, in ascending order. */
  readonly functions: ArrayLike<number>;
  readonly counts: ArrayLike<number>;
}

/**
 * Packs counts into one row. For each function two varints: its id less that of the one before it (less `base` for the
 * first, so 0), and how often it was called.
 */
export function packCounts(
  thread: number,
  startMs: number,
  durationMs: number,
  { functions, counts }: CountColumns,
): RowContent<'counts'> {
  const writer = new VarintWriter();
  const base = functions[0] ?? 0;
  let before = base;
  for (let at = 0; at < functions.length; at++) {
    writer.write(functions[at]! - before);
    writer.write(counts[at]!);
    before = functions[at]!;
  }
  return { thread, startMs, durationMs, count: functions.length, base, data: toBase64(writer.bytes()) };
}

/**
 * Unpacks a row of counts into two columns of equal length.
 * @throws RangeError when the data is damaged or does not hold `count` functions
 */
export function unpackCounts(row: RowContent<'counts'>): { functions: number[]; counts: number[] } {
  const reader = new VarintReader(fromBase64(row.data));
  const functions: number[] = [];
  const counts: number[] = [];
  let id = row.base;
  while (!reader.done) {
    id += reader.read();
    functions.push(id);
    counts.push(reader.read());
  }
  if (functions.length !== row.count)
    throw new RangeError(`packed data holds ${functions.length} functions, "count" says ${row.count}`);
  return { functions, counts };
}
