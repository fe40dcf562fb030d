import type { RowOfKind } from '@nettle-patch/core';
import type { Capture } from '../capture/capture';
import type { CallEventBuffer } from '../exact/call-event-buffer';
import { defined } from '../interned';
import { apply, now } from '../natives';
import type { RecordingSession } from '../session';
import { guarded } from './internal';
import type { AnyFunction } from './replace';
import type { CameFrom } from './worker-line';

/** A shorter entry is of interest only where something else came of it. */
const WORTH_MS = 1;
/** Links of a chain of causes that are kept. */
const MAX_CHAIN = 12;
/** Messages of one entry to other threads of which is told; it may send thousands. */
const MAX_MESSAGES = 32;

/** Something that was asked for, and will call back. */
export interface Scheduled {
  readonly type: RowOfKind<'schedule'>['type'];
  readonly startMs: number;
  readonly by: Entry | undefined;
  readonly callback: unknown;
  readonly functionId: number | undefined;
  readonly about: AboutSchedule;
  id: number;
}

/** What is told of it beyond that. */
interface AboutSchedule {
  readonly delayMs?: number | undefined;
  readonly url?: string | undefined;
  /** Of a message to another thread: that thread, and which it is of all that went there. */
  readonly to?: number;
  readonly nth?: number;
}

/** How script is entered: the standard's names for it (W3C Long Animation Frames, invoker types). */
export type EntryType = 'event-listener' | 'user-callback' | 'resolve-promise';

/** One entry into script. */
export interface Entry {
  readonly type: EntryType;
  readonly schedule: Scheduled | undefined;
  readonly startMs: number;
  readonly chain: number;
  readonly callback: unknown;
  readonly message: CameFrom | undefined;
  /** Who called it, in words; of an event, told only when it is wanted. */
  invoker: string | (() => string);
  durationMs: number;
  /** Of this, time in which a dialog was open. */
  pauseMs: number;
  /** Given when it is written, or has been referred to. */
  id: number;
  ended: boolean;
  written: boolean;
}

/** What is told of an entry beyond its callback. */
export interface EntryAbout {
  readonly type: EntryType;
  readonly invoker: string | (() => string);
  readonly schedule?: Scheduled | undefined;
  /** Of a message from another thread: which it is. */
  readonly message?: CameFrom | undefined;
}

/** Entries into script, each with what scheduled it: how long they took, and what they came from. */
export class ScriptEntryTracker implements Capture {
  readonly name = 'handlers';
  readonly available = true;
  #session: RecordingSession | undefined;
  #current: Entry | undefined;
  #resumed: Entry | undefined;
  #nextId = 1;
  #messages = 0;
  /** What script was entered by last, be it over or not. */
  latest: Entry | undefined;
  readonly #onOutermost: ((startMs: number) => void)[] = [];
  readonly #onEnd: ((durationMs: number) => void)[] = [];

  constructor(private readonly ring: CallEventBuffer) {}

  /** @param listener is called when script is entered from outside, with the time of `performance.now()` */
  onOutermost(listener: (startMs: number) => void): void {
    this.#onOutermost.push(listener);
  }

  /** @param listener is called when script entered from outside has ended, with how long it took */
  onEnd(listener: (durationMs: number) => void): void {
    this.#onEnd.push(listener);
  }

  start(session: RecordingSession): void {
    this.#session = session;
    this.#nextId = Math.max(this.#nextId, session.firstId);
  }

  stop(): void {
    this.#session = undefined;
    this.#current = undefined;
    this.#resumed = undefined;
  }

  /** Notes that something was asked for now, by what runs now. */
  schedule(type: Scheduled['type'], callback: unknown, about: AboutSchedule = {}): Scheduled | undefined {
    if (this.#session === undefined) return undefined;
    return guarded(() => this.#schedule(type, callback, about));
  }

  /** Tells of a message that goes to another thread: what comes of it there refers to it. */
  send(to: number, nth: number): void {
    const schedule = this.schedule('message', undefined, { to, nth });
    if (schedule?.by && ++this.#messages < MAX_MESSAGES)
      guarded(() => this.#writeSchedule(schedule, this.#session!));
  }

  #schedule(type: Scheduled['type'], callback: unknown, about: AboutSchedule): Scheduled {
    const current = this.#current;
    // What asks for itself again came of what asked for it first.
    const before = current?.schedule;
    const by = callback !== undefined && before?.callback === callback ? before.by : current;
    return {
      type,
      startMs: now(),
      by: by !== undefined && by.chain < MAX_CHAIN ? by : undefined,
      callback,
      functionId: this.ring.current(),
      about,
      id: 0,
    };
  }

  /** Calls a callback of the app. */
  run(callback: AnyFunction, self: unknown, args: ArrayLike<unknown>, about: EntryAbout): unknown {
    if (this.#session === undefined) return apply(callback, self, args);
    if (this.#resumed !== undefined) this.endResumed();
    const outer = this.#current;
    const entry = this.#enter(callback, about);
    if (outer !== undefined) {
      try {
        return apply(callback, self, args);
      } finally {
        this.#leave(entry, outer);
      }
    }
    guarded(() => {
      this.#messages = 0;
      this.ring.unwind();
      for (const listener of this.#onOutermost) listener(entry.startMs);
    });
    try {
      return apply(callback, self, args);
    } finally {
      this.#leave(entry, undefined);
      guarded(() => this.#onEnd.forEach((listener) => listener(entry.durationMs)));
    }
  }

  /**
   * Notes that a promise of the browser's goes on, and with it code that nobody can be seen calling. It is taken
   * to run until `endResumed` is called or other script is entered.
   */
  resume(about: EntryAbout): void {
    if (this.#session === undefined || this.#current?.ended === false) return;
    this.endResumed();
    this.#resumed = this.#enter(undefined, about);
    this.#resumed.ended = true;
    for (const listener of this.#onOutermost) listener(this.#resumed.startMs);
  }

  endResumed(): void {
    const resumed = this.#resumed;
    if (resumed === undefined) return;
    this.#resumed = undefined;
    this.#leave(resumed, this.#current === resumed ? undefined : this.#current);
  }

  /** Takes the time since a dialog was opened as a person's, and not as that of the code that opened it. */
  paused(sinceMs: number): void {
    if (this.#current !== undefined) this.#current.pauseMs += now() - sinceMs;
  }

  /** Id of what runs now, for rows that refer to it. */
  currentId(): number | undefined {
    return this.idOf(this.#current);
  }

  /** Id of an entry, for rows that refer to it. */
  idOf(entry: Entry | undefined): number | undefined {
    if (entry === undefined) return undefined;
    entry.id ||= this.#nextId++;
    if (entry.ended) this.#write(entry);
    return entry.id;
  }

  #enter(callback: unknown, { type, invoker, schedule, message }: EntryAbout): Entry {
    return (this.latest = this.#current =
      {
        type,
        invoker,
        schedule,
        message,
        callback,
        startMs: now(),
        chain: (schedule?.by?.chain ?? 0) + 1,
        durationMs: 0,
        pauseMs: 0,
        id: 0,
        ended: false,
        written: false,
      });
  }

  #leave(entry: Entry, outer: Entry | undefined): void {
    entry.durationMs = now() - entry.startMs;
    entry.ended = true;
    this.#current = outer;
    if (entry.durationMs >= WORTH_MS || entry.id > 0) guarded(() => this.#write(entry));
    else if (typeof entry.invoker === 'function') entry.invoker = '';
  }

  #write(entry: Entry): void {
    const session = this.#session;
    if (session === undefined || entry.written) return;
    entry.written = true;
    entry.id ||= this.#nextId++;
    const { type, schedule, message, callback, startMs, durationMs, pauseMs, id } = entry;
    session.lasted('handler', startMs, durationMs, {
      type,
      invoker: typeof entry.invoker === 'function' ? entry.invoker() : entry.invoker,
      id,
      ...defined({
        schedule: schedule && this.#writeSchedule(schedule, session),
        pauseMs: session.length(pauseMs) || undefined,
        function: session.tables.functionLike(callback),
        ...message,
      }),
    });
  }

  #writeSchedule(schedule: Scheduled, session: RecordingSession): number {
    if (schedule.id > 0) return schedule.id;
    schedule.id = this.#nextId++;
    const { by, functionId, about } = schedule;
    const byId = this.idOf(by);
    session.happened('schedule', schedule.startMs, {
      id: schedule.id,
      type: schedule.type,
      ...defined({ by: byId, function: functionId, ...about }),
    });
    return schedule.id;
  }
}
