import { CallSpans, type CallColumns } from './call-spans';
import { TextPool } from './column';
import { EVENT_KINDS, type EventKind, type EventTables, type Recording } from './recording';
import { Samples } from './samples';
import { StackTable, type StackColumns } from './stack-table';
import { Table, type TableColumns } from './table';
import { ROW_SHAPES } from '../format/rows';

/** A recording as a message between threads: its columns as they are, and plain objects for what is small. */
export interface RecordingMessage extends Pick<
  Recording,
  'header' | 'threads' | 'sources' | 'functions' | 'files' | 'unknownLines' | 'range'
> {
  readonly texts: readonly string[];
  readonly stacks: StackColumns;
  readonly calls: readonly (readonly [thread: number, columns: CallColumns])[];
  readonly samples: readonly (readonly [
    thread: number,
    columns: Pick<Samples, 'intervalMs' | 'timesUs' | 'stacks' | 'intervals' | 'together'>,
  ])[];
  readonly events: readonly (readonly [kind: EventKind, columns: TableColumns])[];
}

/**
 * A recording ready to be posted to another thread.
 * @returns the message, and the buffers to hand over with it: the recording must not be used any more then
 */
export function toMessage(recording: Recording): { message: RecordingMessage; buffers: ArrayBuffer[] } {
  const { header, threads, sources, functions, files, unknownLines, range } = recording;
  const message: RecordingMessage = {
    header,
    threads,
    sources,
    functions,
    files,
    unknownLines,
    range,
    texts: recording.events.task.texts.list(),
    stacks: recording.stacks.columns(),
    calls: [...recording.calls].map(([thread, { startsUs, endsUs, stacks, depths }]) => [
      thread,
      { startsUs, endsUs, stacks, depths },
    ]),
    samples: [...recording.samples].map(([thread, { intervalMs, timesUs, stacks, intervals, together }]) => [
      thread,
      { intervalMs, timesUs, stacks, intervals, together },
    ]),
    events: EVENT_KINDS.map((kind) => [kind, recording.events[kind].toColumns()]),
  };
  return { message, buffers: [...buffersIn(message)] };
}

/** The recording that a message carries. */
export function fromMessage(message: RecordingMessage): Recording {
  const texts = new TextPool(message.texts);
  const { header, threads, sources, functions, files, unknownLines, range } = message;
  return {
    header,
    threads,
    sources,
    functions,
    files,
    unknownLines,
    range,
    stacks: StackTable.fromColumns(message.stacks),
    calls: new Map(message.calls.map(([thread, columns]) => [thread, new CallSpans(columns)])),
    samples: new Map(
      message.samples.map(([thread, { intervalMs, timesUs, stacks, intervals, together }]) => [
        thread,
        new Samples(intervalMs, timesUs, stacks, intervals, together),
      ]),
    ),
    events: Object.fromEntries(
      message.events.map(([kind, columns]) => [kind, Table.fromColumns(ROW_SHAPES[kind], texts, columns)]),
    ) as EventTables,
  };
}

/** All buffers of typed arrays in a value, each once. */
export function buffersIn(value: unknown, found = new Set<ArrayBuffer>()): Set<ArrayBuffer> {
  if (ArrayBuffer.isView(value)) found.add(value.buffer as ArrayBuffer);
  else if (Array.isArray(value)) value.forEach((item) => buffersIn(item, found));
  else if (typeof value === 'object' && value !== null && !(value instanceof Map)) {
    Object.values(value).forEach((item) => buffersIn(item, found));
  }
  return found;
}
