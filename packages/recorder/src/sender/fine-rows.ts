import { NO_STACK, packCounts, packSamples, roundMs, toMicroseconds, type Row } from '@nettle-patch/core';
import type { OfThread } from '../messages';
import type { CountedCalls } from '../page/fine/call-counts';
import { FINE_INTERVAL_MS, SAME, type LookSamples } from '../page/fine/look-sampler';
import type { CallPacker, CallPosition } from './call-packer';
import type { SampledTablesOfRecordings } from './sampled-tables-of';

/** Turns what fine mode tells of threads into rows: samples with the lines they stood at, and counts of calls. */
export class FineRows {
  /** The positions of the main thread's latest sample, the outermost first. */
  #latest: readonly number[] = [];
  readonly #positions = new Map<number, CallPosition>();

  constructor(
    private readonly calls: CallPacker,
    private readonly tables: SampledTablesOfRecordings,
  ) {}

  /** Where the calls of the main thread stood when it was sampled last. */
  get latest(): readonly number[] {
    return this.#latest;
  }

  forget(): void {
    this.#latest = [];
  }

  /** Has positions looked up anew, as more scripts are known. */
  registered(): void {
    this.#positions.clear();
  }

  positionOf(id: number): CallPosition {
    let position = this.#positions.get(id);
    if (position === undefined) this.#positions.set(id, (position = this.calls.positionOf(id)));
    return position;
  }

  samples({ recordingId, thread, originMs, timesMs, stacks }: OfThread & LookSamples): Row[] {
    const ids: number[] = [];
    const rows: Row[] = [];
    let at = 0;
    let latest: Int32Array = new Int32Array(0);
    for (let sample = 0; sample < timesMs.length; sample++) {
      const depth = stacks[at++]!;
      if (depth === SAME) {
        ids.push(ids.at(-1)!);
        continue;
      }
      latest = stacks.subarray(at, at + depth);
      ids.push(this.stackOf(recordingId, latest, rows));
      at += depth;
    }
    if (thread === 0) this.#latest = Array.from(latest);
    rows.push(...this.tables.takeRows());
    const timesUs = Array.from(timesMs, (ms) => Math.max(0, toMicroseconds(ms - originMs)));
    rows.push({ kind: 'samples', ...packSamples(thread, FINE_INTERVAL_MS, { timesUs, stacks: ids }) });
    return rows;
  }

  /** Id of a stack. @param rows get those about functions that are new in it */
  stackOf(recordingId: string, positions: ArrayLike<number>, rows: Row[]): number {
    const tables = this.tables.of(recordingId);
    let stack = NO_STACK;
    for (let level = 0; level < positions.length; level++) {
      const { functionId, at } = this.positionOf(positions[level]!);
      rows.push(...this.calls.functionRows(recordingId, [functionId]));
      stack = tables.stack(functionId, stack, at);
    }
    return stack;
  }

  /** The same with all rows about what is new. */
  stackRows(recordingId: string, positions: readonly number[]): { rows: Row[]; stack: number } {
    const rows: Row[] = [];
    const stack = this.stackOf(recordingId, positions, rows);
    rows.push(...this.tables.takeRows());
    return { rows, stack };
  }

  counts({
    recordingId,
    thread,
    originMs,
    sinceMs,
    untilMs,
    ids,
    counts,
  }: OfThread & CountedCalls & { readonly sinceMs: number; readonly untilMs: number }): Row[] {
    const startMs = Math.max(0, roundMs(sinceMs - originMs));
    const durationMs = Math.max(0, roundMs(untilMs - originMs) - startMs);
    return [
      ...this.calls.functionRows(recordingId, ids),
      { kind: 'counts', ...packCounts(thread, startMs, durationMs, { functions: ids, counts }) },
    ];
  }
}
