import type { Header } from '../format/header';
import { NO_STACK } from '../format/packed-samples';
import type { RowContent, RowKind, RowShapes } from '../format/rows';
import type { RecordedFunction } from './functions';
import { CallSpans } from './call-spans';
import { Samples } from './samples';
import type { Source } from './sources';
import type { Table } from './table';

/** Kinds that are kept as tables of events, one column a field. */
export const EVENT_KINDS = [
  'task',
  'frame',
  'handler',
  'schedule',
  'render',
  'forced',
  'redraw',
  'memory',
  'collection',
  'hang',
  'input',
  'span',
  'request',
  'state',
  'pause',
  'drop',
  'cost',
  'end',
] as const satisfies readonly RowKind[];
export type EventKind = (typeof EVENT_KINDS)[number];
export type EventTables = { readonly [Kind in EventKind]: Table<RowShapes[Kind]> };

/** The thread a page's own scripts and its rendering run on. */
export const MAIN_THREAD = 0;

export interface TimeRange {
  readonly startMs: number;
  readonly endMs: number;
}

/** A recording ready for analysis: tables in order of time, and the interned tables they refer to. */
export interface Recording {
  readonly header: Header;
  readonly threads: ReadonlyMap<number, RowContent<'thread'>>;
  readonly sources: ReadonlyMap<number, Source>;
  readonly functions: ReadonlyMap<number, RecordedFunction>;
  readonly stacks: StackTable;
  readonly samples: ReadonlyMap<number, Samples>;
  /** Exact calls by thread. */
  readonly calls: ReadonlyMap<number, CallSpans>;
  readonly events: EventTables;
  /** Lines of kinds this version does not know, as they were read. */
  readonly unknownLines: readonly string[];
  /** From 0 to the last thing known to have happened. */
  readonly range: TimeRange;
}

/** Stacks that were met in exact calls get ids from here on, which no row gives. */
const FIRST_DERIVED = 2 ** 30;

/** Call stacks, each as its innermost function and the stack of its caller. */
export class StackTable {
  readonly #functions = new Map<number, number>();
  readonly #parents = new Map<number, number>();
  readonly #derived = new Map<number, Map<number, number>>();
  #nextDerived = FIRST_DERIVED;

  /** Ids that rows gave. */
  *ids(): Generator<number> {
    for (const id of this.#functions.keys()) if (id < FIRST_DERIVED) yield id;
  }

  /** The stack of a call of a function from a stack, or from NO_STACK. */
  calledFrom(parent: number, functionId: number): number {
    let children = this.#derived.get(parent);
    if (children === undefined) this.#derived.set(parent, (children = new Map()));
    let id = children.get(functionId);
    if (id === undefined) {
      id = this.#nextDerived++;
      children.set(functionId, id);
      this.add(id, functionId, parent);
    }
    return id;
  }

  has(stack: number): boolean {
    return this.#functions.has(stack);
  }

  /** Adds a stack whose parent is already there, which rules out circles. */
  add(stack: number, functionId: number, parent = NO_STACK): void {
    this.#functions.set(stack, functionId);
    this.#parents.set(stack, parent);
  }

  /** Innermost function of a stack. */
  functionOf(stack: number): number {
    return this.#functions.get(stack)!;
  }

  /** Stack of the caller, or NO_STACK. */
  parentOf(stack: number): number {
    return this.#parents.get(stack) ?? NO_STACK;
  }

  /** Functions of a stack from the innermost outwards. */
  *inward(stack: number): Generator<number> {
    for (let at = stack; at !== NO_STACK; at = this.parentOf(at)) yield this.functionOf(at);
  }

  /** Functions of a stack from the outermost inwards. */
  path(stack: number): number[] {
    return [...this.inward(stack)].reverse();
  }
}

const NO_SAMPLES = /* @__PURE__ */ new Samples(0, [], []);

const NO_CALLS = /* @__PURE__ */ CallSpans.none();

export function callsOf(recording: Recording, thread: number): CallSpans {
  return recording.calls.get(thread) ?? NO_CALLS;
}

export function samplesOf(recording: Recording, thread: number): Samples {
  return recording.samples.get(thread) ?? NO_SAMPLES;
}
