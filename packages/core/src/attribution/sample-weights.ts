import { NO_STACK } from '../format/packed-samples';
import type { Samples } from '../recording/samples';
import type { StackTable } from '../recording/stack-table';
import { fillMissingStacks } from './missing-stacks';

/** A part of an entry into script, and what is taken to have run in it. */
export interface ScriptPiece {
  /** Call stack, or NO_STACK where nothing is known but the entry. */
  readonly stack: number;
  /** Whether a sample saw this stack at this place. */
  readonly seen: boolean;
  /** Milliseconds of script. */
  lengthMs: number;
}

/** Stretches of entries into script, each with the length of script in it. */
interface Stretch {
  readonly pool: number;
  readonly startMs: number;
  readonly scriptMs: number;
  /** Samples in it, each with the time between it and its neighbours. */
  readonly samples: readonly {
    readonly stack: number;
    readonly seen: boolean;
    readonly intervalMs: number;
  }[];
  readonly firstSampleMs: number;
  readonly lead: ScriptPiece[];
  cells: ScriptPiece[];
  readonly trail: ScriptPiece[];
}

/** Time that no sample of its own stretch stands for, to be filled. */
interface Room {
  readonly into: ScriptPiece[];
  leftMs: number;
}

/** What is known of all stretches that were entered in the same way. */
class Pool {
  scriptMs = 0;
  sampledMs = 0;
  /** Rooms and surplus of samples, the first that are not used up. */
  readonly rooms: Room[] = [];
  readonly surplus: ScriptPiece[] = [];
  nextRoom = 0;
  nextSurplus = 0;
  stretches = 0;

  /** How much of the script of the pool a millisecond between samples stands for. */
  get scale(): number {
    return this.scriptMs / this.sampledMs;
  }

  addRoom(room: Room): void {
    while (room.leftMs > 0 && this.nextSurplus < this.surplus.length) {
      const surplus = this.surplus[this.nextSurplus]!;
      const lengthMs = Math.min(surplus.lengthMs, room.leftMs);
      room.into.push({ stack: surplus.stack, seen: false, lengthMs });
      room.leftMs -= lengthMs;
      surplus.lengthMs -= lengthMs;
      if (surplus.lengthMs <= 0) this.nextSurplus++;
    }
    if (room.leftMs > 0) this.rooms.push(room);
  }

  addSurplus(stack: number, lengthMs: number): void {
    let left = lengthMs;
    while (left > 0 && this.nextRoom < this.rooms.length) {
      const room = this.rooms[this.nextRoom]!;
      const takenMs = Math.min(left, room.leftMs);
      room.into.push({ stack, seen: false, lengthMs: takenMs });
      room.leftMs -= takenMs;
      left -= takenMs;
      if (room.leftMs <= 0) this.nextRoom++;
    }
    if (left > 0) this.surplus.push({ stack, seen: false, lengthMs: left });
  }
}

const UNSAMPLED: readonly ScriptPiece[] = [{ stack: NO_STACK, seen: true, lengthMs: Infinity }];

/**
 * Shares the time of entries into script among the samples that fell into them.
 *
 * An entry is timed, so its samples say what ran in it and nothing of the time around it. If each moment went to the
 * nearest sample, what runs at the edges of entries would be under-counted: a sample there speaks for less than one
 * in the middle. Instead a sample stands for the interval between it and its neighbours, wherever in an entry it fell,
 * scaled so that all samples of the entries of one kind sum to their length. That is right in expectation, as samples
 * fall with equal chance on every moment (the ratio estimator; Cochran, Sampling Techniques, chapter 6). An entry with fewer samples than its length calls for is
 * filled up with what others of its kind, the nearest first, have too much of; that is not seen, but inferred.
 */
export class SampleWeights {
  readonly #stretches: Stretch[] = [];
  readonly #pools: Pool[] = [];

  constructor(
    private readonly samples: Samples,
    private readonly stacks: StackTable,
  ) {}

  /**
   * Adds a stretch, in order of time.
   * @param pool number of the kind of entry, from 0
   * @param scriptShare share of the stretch that was script, 0 to 1
   */
  add(startMs: number, endMs: number, scriptShare: number, pool: number): void {
    const first = this.samples.firstAtOrAfter(startMs);
    const end = this.samples.firstAtOrAfter(endMs);
    const scriptMs = (endMs - startMs) * scriptShare;
    const filled = fillMissingStacks(this.stacks, Array.from(this.samples.stacks.subarray(first, end))) ?? [];
    const samples = filled.map((sample, index) => ({
      ...sample,
      intervalMs: this.samples.weightMs(first + index),
    }));
    const stretch: Stretch = {
      pool,
      startMs,
      scriptMs,
      samples,
      firstSampleMs: samples.length > 0 ? this.samples.timeMs(first) : startMs,
      lead: [],
      cells: [],
      trail: [],
    };
    this.#stretches.push(stretch);
    const wasLookedAt = samples.length > 0 || (end === first && this.samples.coversGapBefore(first));
    const of = (this.#pools[pool] ??= new Pool());
    if (!wasLookedAt) {
      stretch.lead.push({ stack: NO_STACK, seen: true, lengthMs: scriptMs });
      return;
    }
    of.scriptMs += scriptMs;
    for (const { intervalMs } of samples) of.sampledMs += intervalMs;
  }

  /** Shares out what was added. To be called once, after all. */
  settle(): void {
    for (const stretch of this.#stretches) {
      if (stretch.lead.length > 0) continue;
      const pool = this.#pools[stretch.pool]!;
      if (pool.sampledMs > 0) this.#share(stretch, pool);
    }
  }

  /**
   * What ran in a stretch, piece by piece, by the number it was added as. The pieces may end a little early. Where
   * nothing was added, as there are no samples, nothing is known of any.
   */
  piecesOf(index: number): readonly ScriptPiece[] {
    const stretch = this.#stretches[index];
    if (stretch === undefined) return UNSAMPLED;
    const { lead, cells, trail, scriptMs } = stretch;
    const pieces = [...lead, ...cells, ...trail];
    return pieces.length > 0 ? pieces : [{ stack: NO_STACK, seen: true, lengthMs: scriptMs }];
  }

  #share(stretch: Stretch, pool: Pool): void {
    const { samples, scriptMs } = stretch;
    const { scale } = pool;
    const ordinal = pool.stretches++;
    stretch.cells = samples.map(({ stack, seen, intervalMs }) => ({
      stack,
      seen,
      lengthMs: intervalMs * scale,
    }));
    const roomMs = scriptMs - stretch.cells.reduce((sum, { lengthMs }) => sum + lengthMs, 0);
    if (roomMs < 0) this.#giveUp(stretch, pool, -roomMs, ordinal);
    else if (roomMs > 0) {
      const [first] = stretch.cells;
      const earlyMs = first === undefined ? 0 : stretch.firstSampleMs - stretch.startMs - first.lengthMs / 2;
      const leadMs = Math.min(roomMs, Math.max(0, earlyMs));
      pool.addRoom({ into: stretch.lead, leftMs: leadMs });
      pool.addRoom({ into: stretch.trail, leftMs: roomMs - leadMs });
    }
  }

  /** Takes from samples what does not fit, beginning with one that is picked without regard to what it saw. */
  #giveUp({ cells }: Stretch, pool: Pool, surplusMs: number, ordinal: number): void {
    let at = (Math.imul(ordinal + 1, 0x9e3779b1) >>> 8) % cells.length;
    for (let left = surplusMs; left > 0; at = (at + 1) % cells.length) {
      const cell = cells[at]!;
      const takenMs = Math.min(left, cell.lengthMs);
      if (takenMs === 0 && cells.every(({ lengthMs }) => lengthMs === 0)) return;
      cell.lengthMs -= takenMs;
      left -= takenMs;
      pool.addSurplus(cell.stack, takenMs);
    }
  }
}
