import { NO_STACK, type Row, roundMs, firstHangStackOf } from '@nettle-patch/core';
import type { ToSender } from '../messages';
import type { CallPacker } from './call-packer';

type Tick = Extract<ToSender, { type: 'tick' }>;

/** Where calls stand, in fine mode. */
export interface PositionedStacks {
  /** Positions of the open calls of the main thread, the outermost first; none where that is not known. */
  openPositions(): readonly number[];
  /** The stack of some positions, with the rows about what is new in it. */
  stackRows(recordingId: string, positions: readonly number[]): { rows: Row[]; stack: number };
}

/** From here on a silent main thread is said to hang. The page ticks ten times a second. */
const HANG_MS = 350;
const TELL_EVERY_MS = 500;
/** A page that has not ticked for as long sends nothing either. */
const SILENT_MS = 150;

/**
 * Watches the page's main thread from outside: when its ticks stop, tells that it hangs, for how long by now, and
 * in which calls where they can be seen.
 */
export class Watchdog {
  /** Open calls as the page keeps them: their number, then their ids. Given where memory can be shared. */
  open: Int32Array | undefined;
  #tick: Tick | undefined;
  #toldAtMs = -Infinity;
  #hanging = false;
  /** How many pages came before in the recording. */
  page = 0;
  #stacks = 0;

  constructor(
    private readonly calls: CallPacker,
    private readonly fine: PositionedStacks,
  ) {}

  /** Whether the page has sent nothing for a while. */
  get silent(): boolean {
    return this.#tick !== undefined && this.#silenceMs(this.#tick) > SILENT_MS;
  }

  /** Takes a sign of life. @returns rows: the end of a hang, if there was one */
  tick(tick: Tick): Row[] {
    const before = this.#tick;
    this.#tick = tick;
    if (!this.#hanging || before === undefined) return [];
    this.#hanging = false;
    this.#toldAtMs = -Infinity;
    return [this.#row(before, tick.atMs - before.atMs, true)];
  }

  /** @returns rows about a hang that goes on */
  look(): { recordingId: string; rows: Row[] } | undefined {
    const tick = this.#tick;
    if (tick === undefined || !tick.watch) return undefined;
    const silenceMs = this.#silenceMs(tick);
    if (silenceMs < HANG_MS || silenceMs - this.#toldAtMs < TELL_EVERY_MS) return undefined;
    this.#hanging = true;
    this.#toldAtMs = silenceMs;
    const { rows, stack } = this.#stackRows(tick.recordingId);
    const hang = { ...this.#row(tick, silenceMs, false), ...(stack === NO_STACK ? {} : { stack }) };
    return { recordingId: tick.recordingId, rows: [...rows, hang] };
  }

  /** How long the page has been silent, on its own clock. */
  #silenceMs(tick: Tick): number {
    return performance.timeOrigin + performance.now() - tick.timeOrigin - tick.atMs;
  }

  #row(since: Tick, durationMs: number, ended: boolean): Row & { kind: 'hang' } {
    const startMs = roundMs(since.atMs - since.originMs);
    return { kind: 'hang', thread: 0, startMs, durationMs: Math.max(0, Math.round(durationMs)), ended };
  }

  #stackRows(recordingId: string): { rows: Row[]; stack: number } {
    const positions = this.fine.openPositions();
    if (positions.length > 0) return this.fine.stackRows(recordingId, positions);
    const ids = this.#openIds();
    const rows = this.calls.functionRows(recordingId, ids);
    let parent = NO_STACK;
    for (const id of ids) {
      const row = { kind: 'stack', id: firstHangStackOf(this.page) + this.#stacks++, function: id } as const;
      rows.push(parent === NO_STACK ? row : { ...row, parent });
      parent = row.id;
    }
    return { rows, stack: parent };
  }

  #openIds(): readonly number[] {
    const { open } = this;
    if (open === undefined) return this.calls.open;
    const count = Math.min(Atomics.load(open, 0), open.length - 1);
    return Array.from(open.subarray(1, count + 1), (id) => this.calls.functionOf(id));
  }
}
