import {
  MAIN_THREAD,
  NO_STACK,
  packCounts,
  packSamples,
  roundMs,
  stableOrder,
  toMicroseconds,
  type Row,
} from '@nettle-patch/core';
import type { OfThread } from '../messages';
import type { CountedCalls } from '../page/fine/call-counts';
import { FINE_INTERVAL_MS, SAME, type LookSamples } from '../page/fine/stack-samples';
import type { CallPacker } from './call-packer';
import type { SampledTablesOfRecordings } from './sampled-tables-of';

/** The stack of a thread's latest sample, level by level: what the next has in common with it need not be looked up. */
interface LatestStack {
  readonly recordingId: string;
  positions: Int32Array;
  /** Ids of the stacks, the outermost first. */
  readonly stacks: number[];
}

/** Turns what fine mode tells of threads into rows: samples with the lines they stood at, and counts of calls. */
export class FineRows {
  /** By thread. */
  readonly #latestStacks = new Map<number, LatestStack>();

  constructor(
    private readonly calls: CallPacker,
    private readonly tables: SampledTablesOfRecordings,
  ) {}

  /** Where the calls of the main thread stood when it was sampled last. */
  get latest(): readonly number[] {
    return Array.from(this.#latestStacks.get(MAIN_THREAD)?.positions ?? []);
  }

  forget(): void {
    this.#latestStacks.clear();
  }

  samples({ recordingId, thread, originMs, timesMs, stacks, together }: OfThread & LookSamples): Row[] {
    const ids: number[] = [];
    const functionIds: number[] = [];
    let at = 0;
    for (let sample = 0; sample < timesMs.length; sample++) {
      const depth = stacks[at++]!;
      if (depth === SAME) {
        ids.push(ids.at(-1)!);
        continue;
      }
      const positions = stacks.subarray(at, at + depth);
      ids.push(this.#sampledStack(recordingId, thread, positions, functionIds));
      at += depth;
    }
    const timesUs = Array.from(timesMs, (ms) => Math.max(0, toMicroseconds(ms - originMs)));
    // Some were held back until it was known where they stand.
    const order = stableOrder(timesUs);
    const columns = {
      timesUs: Array.from(order, (sample) => timesUs[sample]!),
      stacks: Array.from(order, (sample) => ids[sample]!),
      together: together && Array.from(order, (sample) => together[sample]!),
    };
    return [
      ...this.#newRows(recordingId, functionIds),
      { kind: 'samples', ...packSamples(thread, FINE_INTERVAL_MS, columns) },
    ];
  }

  /** The stack of some positions, with the rows about what is new in it. */
  stackRows(recordingId: string, positions: readonly number[]): { rows: Row[]; stack: number } {
    const functionIds: number[] = [];
    const stack = this.#stackOf(recordingId, positions, functionIds);
    return { rows: this.#newRows(recordingId, functionIds), stack };
  }

  /** Id of the stack of a thread's sample. @param functionIds gets those of its functions that may be new */
  #sampledStack(recordingId: string, thread: number, positions: Int32Array, functionIds: number[]): number {
    let latest = this.#latestStacks.get(thread);
    if (latest?.recordingId !== recordingId) {
      latest = { recordingId, positions: new Int32Array(0), stacks: [] };
      this.#latestStacks.set(thread, latest);
    }
    const common = Math.min(latest.positions.length, positions.length);
    let level = 0;
    while (level < common && latest.positions[level] === positions[level]) level++;
    latest.positions = positions;
    latest.stacks.length = level;
    return this.#stackOf(recordingId, positions, functionIds, latest.stacks);
  }

  /**
   * Id of a stack.
   * @param functionIds gets those of the functions on it that were looked up
   * @param stacks those of its outermost levels, as far as they are known; gets the others
   */
  #stackOf(
    recordingId: string,
    positions: ArrayLike<number>,
    functionIds: number[],
    stacks: number[] = [],
  ): number {
    const tables = this.tables.of(recordingId);
    let stack = stacks.at(-1) ?? NO_STACK;
    for (let level = stacks.length; level < positions.length; level++) {
      const { functionId, at } = this.calls.positionOf(positions[level]!);
      functionIds.push(functionId);
      stack = tables.stack(functionId, stack, at);
      stacks.push(stack);
    }
    return stack;
  }

  /** Rows about functions and stacks that a recording does not know of yet. */
  #newRows(recordingId: string, functionIds: readonly number[]): Row[] {
    return [...this.calls.functionRows(recordingId, functionIds), ...this.tables.takeRows()];
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
