import {
  displayName,
  displayPlace,
  mostOf,
  unpackSamples,
  type RecordedFunction,
  type Row,
  type RowOfKind,
} from '@nettle-patch/core';
import type { LiveTask } from './live-state';

const SHOWN = 20;
/** Samples that are kept to be matched with a task. */
const KEPT_SAMPLES = 5000;
/** Entries into script that are kept to be matched with a task: it may be told of before them or after. */
const KEPT_HANDLERS = 400;

/** Follows rows to list the long tasks of the main thread, with the function seen most in them, or what was entered. */
export class LiveTasks {
  readonly #functions = new Map<number, RecordedFunction>();
  readonly #sources = new Map<number, RowOfKind<'source'>>();
  readonly #handlers: RowOfKind<'handler'>[] = [];
  readonly #tasks: RowOfKind<'task'>[] = [];
  /** Function of the innermost call of each stack. */
  readonly #innermost = new Map<number, number>();
  #samples: { readonly ms: number; readonly stack: number }[] = [];

  /** The list, as long as nothing came that may change it. */
  #latest: readonly LiveTask[] | undefined;

  take(row: Row): void {
    this.#latest = undefined;
    if (row.kind === 'function') this.#functions.set(row.id, row as RecordedFunction);
    else if (row.kind === 'source') this.#sources.set(row.id, row);
    else if (row.kind === 'stack') this.#innermost.set(row.id, row.function);
    else if (row.kind === 'samples' && row.thread === 0) this.#sampled(row);
    else if (row.kind === 'handler' && row.thread === 0) keep(this.#handlers, row, KEPT_HANDLERS);
    else if (row.kind === 'task' && row.thread === 0) keep(this.#tasks, row, SHOWN);
  }

  /** The latest, newest first. */
  latest(): readonly LiveTask[] {
    return (this.#latest ??= this.#tasks.map((task) => this.#shown(task)).reverse());
  }

  #sampled(row: RowOfKind<'samples'>): void {
    const { timesUs, stacks } = unpackSamples(row);
    const added = timesUs.map((timeUs, at) => ({ ms: timeUs / 1000, stack: stacks[at]! }));
    this.#samples = [...this.#samples, ...added].slice(-KEPT_SAMPLES);
  }

  /** The function that samples in a range saw most. */
  #seenMost(startMs: number, endMs: number): number | undefined {
    const counts = new Map<number, number>();
    for (const { ms, stack } of this.#samples) {
      const functionId = ms >= startMs && ms < endMs ? this.#innermost.get(stack) : undefined;
      if (functionId !== undefined) counts.set(functionId, (counts.get(functionId) ?? 0) + 1);
    }
    return mostOf(counts)?.[0];
  }

  #shown({ startMs, durationMs }: RowOfKind<'task'>): LiveTask {
    const endMs = startMs + durationMs;
    const seen = this.#functions.get(this.#seenMost(startMs, endMs) ?? -1);
    if (seen !== undefined) return { startMs, durationMs, ...this.#named(seen) };
    let longest: RowOfKind<'handler'> | undefined;
    for (const one of this.#handlers) {
      const isIn = one.startMs < endMs && one.startMs + one.durationMs > startMs;
      if (isIn && one.durationMs > (longest?.durationMs ?? 0)) longest = one;
    }
    if (longest === undefined) return { startMs, durationMs };
    const recorded = longest.function === undefined ? undefined : this.#functions.get(longest.function);
    return {
      startMs,
      durationMs,
      ...(recorded === undefined ? { name: `entered by ${longest.invoker}` } : this.#named(recorded)),
    };
  }

  #named(recorded: RecordedFunction): { name: string; place: string } {
    const place = displayPlace(recorded, this.#sources.get(recorded.source ?? -1));
    return { name: displayName(recorded), place };
  }
}

function keep<Kept>(list: Kept[], one: Kept, most: number): void {
  list.push(one);
  if (list.length > most) list.shift();
}
