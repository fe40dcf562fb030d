import { FORCED_LAYOUT_FUNCTION, FORCED_STYLE_FUNCTION } from '@nettle-patch/core';
import type { Capture } from '../capture/capture';
import { elementLabel } from '../element-label';
import type { CallEventBuffer } from '../exact/call-event-buffer';
import { defined } from '../interned';
import { apply, now } from '../natives';
import type { RecordingSession } from '../session';
import { CallSites } from '../wrap/call-site';
import type { ScriptEntryTracker } from '../wrap/script-entries';
import { guarded } from '../wrap/internal';
import { replaceAccessor, replaceMethod, type AnyFunction, type Replacement } from '../wrap/replace';
import { ALL_GETTING, FORCING_MEMBERS, SHEET_MEMBERS, WRITING_MEMBERS, type Forces } from './forcing-members';
import type { LastWrite, Mutations } from './mutations';
import type { ProbeSteps } from './probe-steps';

/** Reads of one kind in a row that must come from one place before it is taken for the place of the next. */
const SURE_AFTER = 6;
/** How often that is looked at again. */
const LOOK_AGAIN = 32;
/** Up to here the second step weighs against what is measured. */
const CHEAP_MS = 4;

/** Where reads of one kind come from in one task: asking the engine for a stack costs more than many a read. */
interface ReadsOfTask {
  forced: Forced | undefined;
  count: number;
  /** How many of them in a row were seen to come from this place. */
  inARow: number;
}

interface Forced {
  readonly startMs: number;
  readonly read: string;
  readonly functionId: number | undefined;
  endMs: number;
  count: number;
  styleMs: number;
  layoutMs: number;
  readonly apart: Apart;
  write: LastWrite | undefined;
  writer: number | undefined;
}

/** Forced layouts of one place that were done in two steps, over the whole recording. */
interface Apart {
  count: number;
  styleMs: number;
  bothMs: number;
}

const NOTHING_YET = { count: 0, styleMs: 0, layoutMs: 0, write: undefined, writer: undefined };

/** Doing it in two steps costs more than at once: of many at one place only some are, and of dear ones the first. */
function isToBeApart({ apart: { count, bothMs }, count: inTask }: Forced): boolean {
  return count < SURE_AFTER || (inTask < SURE_AFTER ? bothMs > count * CHEAP_MS : inTask % LOOK_AGAIN === 0);
}

function ownerNamed(name: string): object | undefined {
  if (name === 'window') return globalThis;
  return (globalThis as unknown as Record<string, { prototype: object } | undefined>)[name]?.prototype;
}

/**
 * Layout forced by script: where, by which read, after which write, and what it cost in style and in layout. Costs
 * next to nothing while nothing has changed. What happens at one place in one task becomes one row.
 */
export class ForcedLayout implements Capture {
  readonly name = 'forced-layout';
  readonly available = true;
  #session: RecordingSession | undefined;
  #sites: CallSites | undefined;
  #inside = false;
  /** The place of the next write is wanted, as layout has just been forced and will be again because of it. */
  #wantsWriter = false;
  #forced: Forced | undefined;
  readonly #apart = new Map<string, Apart>();
  readonly #ofTask = new Map<string, Forced>();
  readonly #reads = new Map<string, ReadsOfTask>();

  constructor(
    private readonly mutations: Mutations,
    private readonly steps: ProbeSteps,
    private readonly ring: CallEventBuffer,
    entries: ScriptEntryTracker,
  ) {
    entries.onOutermost(() => {
      this.#writeRows();
      mutations.resume();
    });
  }

  install(): void {
    for (const { owner, forces = 'layout', getters, setters, methods } of FORCING_MEMBERS) {
      this.#replaceAll(owner, { getters, setters, methods }, (name, original) =>
        this.#trap(name, original, forces),
      );
    }
    for (const { owner, getters, setters, methods } of WRITING_MEMBERS) {
      this.#replaceAll(owner, { getters, setters, methods }, (name, original) =>
        this.#noteWriter(name, original),
      );
    }
    for (const name of SHEET_MEMBERS) {
      replaceMethod(CSSStyleSheet.prototype, name, (original) => this.#noteSheet(name, original));
    }
  }

  start(session: RecordingSession): void {
    this.mutations.start();
    this.#apart.clear();
    this.#session = session;
    this.#sites = new CallSites(session);
  }

  collect(): void {
    this.#writeRows();
    this.mutations.resume();
  }

  stop(): void {
    this.#writeRows();
    this.mutations.stop();
    this.#session = undefined;
  }

  #replaceAll(
    ownerName: string,
    members: { getters?: string | undefined; setters?: string | undefined; methods?: string | undefined },
    make: (name: string, original: AnyFunction) => Replacement,
  ): void {
    const owner = ownerNamed(ownerName);
    const each = (names: string | undefined, replace: (name: string) => void) =>
      (names === ALL_GETTING
        ? Object.getOwnPropertyNames(owner ?? {}).filter((name) => name.startsWith(ALL_GETTING))
        : names?.split(' ')
      )?.forEach(replace);
    each(members.getters, (name) =>
      replaceAccessor(owner, name, { get: (original) => make(name, original) }),
    );
    each(members.setters, (name) =>
      replaceAccessor(owner, name, { set: (original) => make(name, original) }),
    );
    each(members.methods, (name) => replaceMethod(owner, name, (original) => make(name, original)));
  }

  #trap(name: string, original: AnyFunction, forces: Forces): Replacement {
    const force = (trap: AnyFunction) => this.#force(name, forces, trap);
    const wanted = () => this.#session !== undefined && !this.#inside && this.mutations.isDirty();
    const trap: Replacement = {
      instead(...args) {
        if (wanted()) guarded(() => force(trap.instead));
        return apply(original, this, args) as unknown;
      },
    };
    return trap;
  }

  #noteWriter(name: string, original: AnyFunction): Replacement {
    const { mutations } = this;
    const note = (trap: AnyFunction) => {
      this.#wantsWriter = false;
      const current = () => this.#sites?.current(trap);
      if (this.#forced !== undefined) this.#forced.writer = this.#session?.charged('writer', current);
    };
    const wanted = () => this.#wantsWriter && !this.#inside;
    const trap: Replacement = {
      instead(...args) {
        mutations.writing(name, this as Node);
        if (wanted()) guarded(() => note(trap.instead));
        return apply(original, this, args) as unknown;
      },
    };
    return trap;
  }

  #noteSheet(name: string, original: AnyFunction): Replacement {
    const noted = this.#noteWriter(name, original);
    const wrote = () => this.mutations.wrote(name, document);
    return {
      instead(...args) {
        guarded(wrote);
        return apply(noted.instead, this, args) as unknown;
      },
    };
  }

  /** Each read of the clock weighs here: the recorder's own cost is told of where it asks for a stack. */
  #force(read: string, forces: Forces, trap: AnyFunction): void {
    const write = this.mutations.last;
    const forced = this.#forcedAt(read, trap);
    const startMs = now();
    const styledMs = this.#measure(forced, forces, startMs);
    const endMs = now();
    const styledAtMs =
      styledMs ?? startMs + ((endMs - startMs) * forced.apart.styleMs) / (forced.apart.bothMs || 1);
    this.ring.enterAt(FORCED_STYLE_FUNCTION, startMs);
    this.ring.leaveAt(styledAtMs);
    if (forces === 'layout') {
      this.ring.enterAt(FORCED_LAYOUT_FUNCTION, styledAtMs);
      this.ring.leaveAt(endMs);
      this.mutations.clean();
    }
    forced.count++;
    forced.endMs = endMs;
    forced.styleMs += styledAtMs - startMs;
    forced.layoutMs += endMs - styledAtMs;
    forced.write = write;
    this.#wantsWriter = forced.writer === undefined;
    this.#forced = forced;
  }

  /**
   * Has done what is forced, in two steps or at once.
   * @returns when style was done, or undefined where it was not done by itself
   */
  #measure(forced: Forced, forces: Forces, startMs: number): number | undefined {
    const { apart } = forced;
    const isApart = forces === 'style' || isToBeApart(forced);
    this.#inside = true;
    if (isApart) this.steps.style();
    const styledMs = isApart ? now() : undefined;
    if (forces === 'layout') this.steps.layout();
    this.#inside = false;
    if (styledMs !== undefined) {
      apart.count++;
      apart.styleMs += styledMs - startMs;
      apart.bothMs += now() - startMs;
    }
    return styledMs;
  }

  /** What is known of the place that reads now. */
  #forcedAt(read: string, trap: AnyFunction): Forced {
    const call = this.ring.current();
    const within = call === undefined ? read : `${call} ${read}`;
    let reads = this.#reads.get(within);
    if (reads === undefined) this.#reads.set(within, (reads = { forced: undefined, count: 0, inARow: 0 }));
    const sure = reads.inARow >= SURE_AFTER && reads.count % LOOK_AGAIN !== 0;
    reads.count++;
    if (reads.forced !== undefined && sure) return reads.forced;
    const startMs = now();
    const functionId = this.#session!.charged('forced-layout', () => this.#sites!.current(trap));
    const key = `${functionId} ${read}`;
    let forced = this.#ofTask.get(key);
    if (forced === undefined) {
      let apart = this.#apart.get(key);
      if (apart === undefined) this.#apart.set(key, (apart = { count: 0, styleMs: 0, bothMs: 0 }));
      forced = { startMs, read, functionId, endMs: startMs, apart, ...NOTHING_YET };
      this.#ofTask.set(key, forced);
    }
    reads.inARow = reads.forced === forced ? reads.inARow + 1 : 1;
    return (reads.forced = forced);
  }

  #writeRows(): void {
    const session = this.#session;
    if (session === undefined || this.#ofTask.size === 0) return;
    for (const forced of this.#ofTask.values()) {
      const { write, styleMs, layoutMs } = forced;
      session.lasted('forced', forced.startMs, forced.endMs - forced.startMs, {
        count: forced.count,
        costMs: session.length(styleMs + layoutMs),
        styleMs: session.length(styleMs),
        layoutMs: session.length(layoutMs),
        read: forced.read,
        ...defined({
          function: forced.functionId,
          write: write?.what,
          writer: forced.writer,
          target: write === undefined ? undefined : elementLabel(write.target),
        }),
      });
    }
    this.#ofTask.clear();
    this.#reads.clear();
    this.#forced = undefined;
  }
}
