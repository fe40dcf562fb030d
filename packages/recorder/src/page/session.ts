import {
  MAIN_THREAD,
  RECORDER_PATH,
  firstIdOf,
  firstIdOfThread,
  roundMs,
  type Row,
  type RowContent,
} from '@nettle-patch/core';
import { InternedTables } from './interned';
import { now } from './natives';

/** Shorter entries of the recorder's own are of no interest. */
const WORTH_MS = 1;

/** Kinds of rows about one thread at one time. */
type ThreadKind = Extract<Row, { readonly thread: number; readonly startMs: number }>['kind'];

/** What capture modules write into while a recording runs. */
export class RecordingSession {
  readonly tables: InternedTables;
  /** The least id of this thread in this page, for rows that others refer to. */
  readonly firstId: number;
  /** Whether typed words may be kept, as far as the page itself was told so. */
  words: boolean | undefined;
  #rows: Row[] = [];
  #busyMs = 0;
  #longestMs = 0;
  #longest = '';

  /**
   * @param id of the recording
   * @param originMs what `performance.now()` was, or is taken to have been, at time 0 of the recording
   * @param thread that is recorded; each has ids of its own
   * @param startUp whether what happened before this moment belongs to the recording, until it is paused
   * @param page how many pages came before in the recording
   * @param idsOf thread, or number given like that of one, whose ids are given
   * @param whole session of the page that a frame is a part of, which gets all rows
   */
  constructor(
    readonly id: string,
    readonly originMs: number,
    public startUp: boolean,
    readonly thread = MAIN_THREAD,
    readonly page = 0,
    idsOf = thread,
    private readonly whole?: RecordingSession,
  ) {
    this.firstId = idsOf === MAIN_THREAD ? firstIdOf(page) : firstIdOfThread(idsOf);
    this.tables = new InternedTables((row) => this.emit(row), this.firstId);
  }

  /** A time of `performance.now()` on the recording's clock, to the microsecond. Milliseconds. */
  time(nowMs: number): number {
    return roundMs(nowMs - this.originMs);
  }

  /** A length of time, to the microsecond. Milliseconds. */
  length(ms: number): number {
    return Math.max(0, roundMs(ms));
  }

  emit(row: Row): void {
    if (this.whole) this.whole.emit(row);
    else this.#rows.push(row);
  }

  /** Writes a row about this thread. @param atMs when it was, as `performance.now()` had it */
  happened<Kind extends ThreadKind>(
    kind: Kind,
    atMs: number,
    fields: Omit<RowContent<Kind>, 'thread' | 'startMs'>,
  ): void {
    this.emit({ kind, thread: this.thread, startMs: this.time(atMs), ...fields } as unknown as Row);
  }

  /** Writes a row about a stretch of time of this thread. @param durationMs its length, rounded here */
  lasted<Kind extends ThreadKind>(
    kind: Kind,
    atMs: number,
    durationMs: number,
    fields: Omit<RowContent<Kind>, 'thread' | 'startMs' | 'durationMs'>,
  ): void {
    this.happened(kind, atMs, { durationMs: this.length(durationMs), ...fields } as never);
  }

  /** Tells that something is missing in the recording. @param count rows lost; 0 where none could be counted */
  drop(reason: string, count = 1): void {
    this.emit({ kind: 'drop', startMs: this.time(now()), count, reason });
  }

  /** Tells of an entry into the recorder's own script, so that what it took is not taken for the app's. */
  ranItself(startMs: number): void {
    const durationMs = this.length(now() - startMs);
    if (durationMs < WORTH_MS) return;
    const name = 'Nettle Patch recorder';
    this.happened('handler', startMs, {
      durationMs,
      type: 'user-callback',
      invoker: name,
      function: this.tables.functionAt(name, location.origin + RECORDER_PATH, 1, 1),
    });
  }

  /** The rows since the last call. */
  takeRows(): Row[] {
    const rows = this.#rows;
    this.#rows = [];
    return rows;
  }

  /** Does a piece of the recorder's own work and counts what it costs the page. @param name of the piece */
  charged<T>(name: string, work: () => T): T {
    const startMs = now();
    try {
      return work();
    } finally {
      this.charge(name, now() - startMs);
    }
  }

  /** Counts a piece of the recorder's own work, by how long it took. */
  charge(name: string, tookMs: number): void {
    this.whole?.charge(name, tookMs);
    this.#busyMs += tookMs;
    if (tookMs < this.#longestMs) return;
    this.#longestMs = tookMs;
    this.#longest = name;
  }

  /** The recorder's own cost since the last call. Milliseconds. */
  takeCost(): { busyMs: number; longestMs: number; longest: string } {
    const cost = {
      busyMs: roundMs(this.#busyMs),
      longestMs: roundMs(this.#longestMs),
      longest: this.#longest,
    };
    this.#busyMs = 0;
    this.#longestMs = 0;
    this.#longest = '';
    return cost;
  }
}
