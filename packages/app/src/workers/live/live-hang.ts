import {
  displayName,
  displayPlace,
  type RecordedFunction,
  type Row,
  type RowOfKind,
} from '@nettle-patch/core';
import type { LiveHang } from './live-state';

/** Follows rows to tell of a hang while it lasts. */
export class LiveHangs {
  readonly #functions = new Map<number, RecordedFunction>();
  readonly #stacks = new Map<number, RowOfKind<'stack'>>();
  #hang: RowOfKind<'hang'> | undefined;

  take(row: Row): void {
    if (row.kind === 'function') this.#functions.set(row.id, row as RecordedFunction);
    else if (row.kind === 'stack') this.#stacks.set(row.id, row);
    else if (row.kind === 'hang') this.#hang = row.ended ? undefined : row;
  }

  /** The hang that goes on, if one does. */
  now(): LiveHang | undefined {
    if (this.#hang === undefined) return undefined;
    const { startMs, durationMs, stack } = this.#hang;
    const calls: { name: string; place: string }[] = [];
    for (let at = stack; at !== undefined; at = this.#stacks.get(at)?.parent) {
      const recorded = this.#functions.get(this.#stacks.get(at)?.function ?? -1);
      calls.push({ name: displayName(recorded), place: displayPlace(recorded, undefined) });
    }
    return { startMs, durationMs, calls };
  }
}
