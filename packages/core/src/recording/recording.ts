import type { Header } from '../format/header';
import type { RowContent, RowKind, RowShapes } from '../format/rows';
import type { RecordedFunction } from './functions';
import { CallSpans } from './call-spans';
import { Samples } from './samples';
import type { Source } from './sources';
import type { StackTable } from './stack-table';
import type { Table } from './table';

/** Kinds that are kept as tables of events, one column a field. */
export const EVENT_KINDS = [
  'weight',
  'counts',
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
  'sync',
  'activity',
  'step',
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
  /** Texts of original sources and scripts, by the path or address that functions lead to. */
  readonly files: ReadonlyMap<string, string>;
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

const NO_SAMPLES = /* @__PURE__ */ new Samples(0, [], []);

const NO_CALLS = /* @__PURE__ */ CallSpans.none();

export function callsOf(recording: Recording, thread: number): CallSpans {
  return recording.calls.get(thread) ?? NO_CALLS;
}

export function samplesOf(recording: Recording, thread: number): Samples {
  return recording.samples.get(thread) ?? NO_SAMPLES;
}
