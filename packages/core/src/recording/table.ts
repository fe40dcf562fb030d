import type { RowOf, Shape } from '../format/fields';
import { Column, type TextPool } from './column';
import { MaxTree } from './max-tree';
import { isAscending, stableOrder } from './order';
import { firstIndex } from '../statistics/search';

/** A table as it is handed to another thread. */
export interface TableColumns {
  readonly length: number;
  readonly values: Readonly<Record<string, Float64Array | Int32Array>>;
  readonly extras: ReadonlyMap<number, Record<string, unknown>>;
}

/** The events of one kind as columns, in order of `startMs` once sorted. */
export class Table<S extends Shape> {
  readonly #columns: ReadonlyMap<string, Column>;
  readonly #extras = new Map<number, Record<string, unknown>>();
  #length = 0;
  #ends: { readonly length: number; readonly tree: MaxTree } | undefined;

  constructor(
    private readonly shape: S,
    /** Where the texts of all columns are. */
    readonly texts: TextPool,
  ) {
    this.#columns = new Map(Object.entries(shape).map(([name, field]) => [name, new Column(field, texts)]));
  }

  /** A table of columns that came from another thread, which it takes as they are. */
  static fromColumns<S extends Shape>(shape: S, texts: TextPool, columns: TableColumns): Table<S> {
    const table = new Table(shape, texts);
    for (const [name, column] of table.#columns) column.take(columns.values[name]!);
    for (const [index, extra] of columns.extras) table.#extras.set(index, extra);
    table.#length = columns.length;
    return table;
  }

  /** The columns, cut to the events there are. */
  toColumns(): TableColumns {
    const values = [...this.#columns].map(([name, column]) => [name, column.values.slice()] as const);
    return { length: this.#length, values: Object.fromEntries(values), extras: this.#extras };
  }

  get length(): number {
    return this.#length;
  }

  /** Values of one column: milliseconds, whole numbers, or text ids. Do not change them. */
  column(name: keyof S & string): Float64Array | Int32Array {
    return this.#columns.get(name)!.values;
  }

  /**
   * All columns, for work that goes through many events: milliseconds, whole numbers, or text ids. Values that are
   * absent are ABSENT_NUMBER, ABSENT_WHOLE or ABSENT_TEXT. Do not change them.
   */
  get columns(): { readonly [Name in keyof S]: Float64Array | Int32Array } {
    return Object.fromEntries([...this.#columns].map(([name, column]) => [name, column.values])) as {
      [Name in keyof S]: Float64Array | Int32Array;
    };
  }

  /** The indexes of what `overlapping` gives. */
  eachOverlapping(startMs: number, endMs: number, visit: (index: number) => void): void {
    this.#endings().eachAbove(startMs, this.firstFrom(endMs), visit);
  }

  /** One field of an event; undefined where it is absent. */
  value<Name extends keyof RowOf<S> & string>(name: Name, index: number): RowOf<S>[Name] | undefined {
    return this.#columns.get(name)!.read(index) as RowOf<S>[Name] | undefined;
  }

  /** One event as an object, with the fields this version does not know. */
  row(index: number): RowOf<S> {
    const row: Record<string, unknown> = {};
    for (const [name, column] of this.#columns) {
      const value = column.read(index);
      if (value !== undefined) row[name] = value;
    }
    return { ...row, ...this.#extras.get(index) } as RowOf<S>;
  }

  *rows(): Generator<RowOf<S>> {
    for (let index = 0; index < this.#length; index++) yield this.row(index);
  }

  /**
   * Events of a sorted table that overlap a range, in order of their start. Events of no length at its start
   * do not count.
   */
  *overlapping(startMs: number, endMs: number): Generator<RowOf<S>> {
    const found: number[] = [];
    this.eachOverlapping(startMs, endMs, (index) => found.push(index));
    for (const index of found) yield this.row(index);
  }

  /** Events of a sorted table that begin in a range, in order of time; one at its end does not count. */
  *beginning(startMs: number, endMs: number): Generator<RowOf<S>> {
    const end = this.firstFrom(endMs);
    for (let index = this.firstFrom(startMs); index < end; index++) yield this.row(index);
  }

  /** Index of the first event that begins at or after a time; `length` when there is none. */
  firstFrom(ms: number): number {
    const starts = this.column('startMs');
    return firstIndex(this.#length, (at) => starts[at]! >= ms);
  }

  /** The ends of all events, made anew where events have come since. */
  #endings(): MaxTree {
    if (this.#ends?.length !== this.#length) {
      const starts = this.column('startMs');
      const durations = this.column('durationMs');
      const ends = Float64Array.from(starts, (startMs, index) => startMs + durations[index]!);
      this.#ends = { length: this.#length, tree: new MaxTree(ends) };
    }
    return this.#ends.tree;
  }

  push(row: Readonly<Record<string, unknown>>): void {
    let known = row['kind'] === undefined ? 0 : 1;
    for (const [name, column] of this.#columns) {
      const value = row[name];
      if (value !== undefined) known++;
      column.push(value);
    }
    let fields = 0;
    for (const name in row) if (row[name] !== undefined) fields++;
    if (fields > known) this.#keepExtras(row);
    this.#length++;
  }

  #keepExtras(row: Readonly<Record<string, unknown>>): void {
    const extra: Record<string, unknown> = {};
    for (const name in row) if (name !== 'kind' && !Object.hasOwn(this.shape, name)) extra[name] = row[name];
    this.#extras.set(this.#length, extra);
  }

  /** Puts the events in order of their start; equal starts stay in the order they came. */
  sort(): void {
    const starts = this.#columns.get('startMs')?.values;
    if (starts === undefined || isAscending(starts)) return;
    const order = stableOrder(starts);
    for (const column of this.#columns.values()) column.reorder(order);
    this.#ends = undefined;
    const extras = [...this.#extras];
    const placeOf = new Map(Array.from(order, (from, to) => [from, to]));
    this.#extras.clear();
    for (const [index, extra] of extras) this.#extras.set(placeOf.get(index)!, extra);
  }
}
