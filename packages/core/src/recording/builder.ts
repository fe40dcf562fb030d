import type { RowSink } from '../format/decoder';
import type { Header } from '../format/header';
import { MAX_CALLS, MAX_SAMPLES } from '../format/limits';
import { unpackCounts } from '../format/packed-counts';
import { NO_STACK, unpackSamples } from '../format/packed-samples';
import type { Shape } from '../format/fields';
import { ROW_SHAPES, type Row, type RowContent, type RowOfKind } from '../format/rows';
import { isLibraryPath } from './original-path';
import { CallSpansBuilder } from './call-spans-builder';
import { TextPool } from './column';
import { ENGINE_ACTIVITIES, STANDING_FUNCTIONS, type RecordedFunction } from './functions';
import { EVENT_KINDS, type EventKind, type EventTables, type Recording } from './recording';
import { mergeSamplers, type SampledSeries } from './merge-samplers';
import type { Samples } from './samples';
import type { Source } from './sources';
import { StackTable } from './stack-table';
import { Table } from './table';
import { countText } from '../words/figures';

/** How much a recording may hold of what a few bytes can tell. */
export interface BuilderLimits {
  readonly calls: number;
  readonly samples: number;
}

const eventKinds: ReadonlySet<string> = new Set(EVENT_KINDS);

/** Takes rows as they come, live or from a file, and gives the recording they make up. */
export class RecordingBuilder implements RowSink {
  readonly #texts = new TextPool();
  readonly #threads = new Map<number, RowContent<'thread'>>();
  readonly #sources = new Map<number, Source>();
  readonly #functions = new Map<number, RecordedFunction>(
    STANDING_FUNCTIONS.map((standing) => [standing.id, standing]),
  );
  readonly #files = new Map<string, string>();
  readonly #stacks = new StackTable();
  /** By thread and interval. */
  readonly #samples = new Map<number, Map<number, SampledSeries>>();
  readonly #calls = new Map<number, CallSpansBuilder>();
  readonly #events: EventTables;
  readonly #offsets = new Map<number, number>();
  readonly #unknownLines: string[] = [];
  #header: Header | undefined;
  #endMs = 0;
  #sampleCount = 0;
  #callEventCount = 0;

  constructor(private readonly limits: BuilderLimits = { calls: MAX_CALLS, samples: MAX_SAMPLES }) {
    const tables = EVENT_KINDS.map((kind) => [kind, new Table(ROW_SHAPES[kind], this.#texts)]);
    this.#events = Object.fromEntries(tables) as EventTables;
  }

  /** Time of the last thing that happened so far. */
  get endMs(): number {
    return this.#endMs;
  }

  header(header: Header): void {
    this.#header = header;
  }

  unknown(line: string): void {
    this.#unknownLines.push(line);
  }

  row(given: Row, read?: number): string | undefined {
    const row = this.#offsets.size === 0 ? given : this.#onOneClock(given);
    switch (row.kind) {
      case 'offset':
        this.#offsets.set(row.thread, row.offsetMs);
        return undefined;
      case 'thread':
        this.#threads.set(row.id, content(row));
        return undefined;
      case 'source':
        this.#sources.set(row.id, content(row));
        return undefined;
      case 'text':
        this.#files.set(row.file, row.text);
        return undefined;
      case 'function':
        return this.#addFunction(row);
      case 'stack':
        return this.#addStack(row);
      case 'samples':
        return this.#addSamples(row);
      case 'calls':
        return this.#addCalls(row, read);
      default:
        return this.#addEvent(row);
    }
  }

  /**
   * The recording so far.
   * @throws Error when no header was taken.
   */
  build(): Recording {
    if (this.#header === undefined) throw new Error('a recording needs a header before it is built');
    for (const kind of EVENT_KINDS) this.#events[kind].sort();
    const samples = new Map<number, Samples>();
    for (const [thread, grown] of this.#samples) {
      samples.set(thread, mergeSamplers([...grown.values()]));
    }
    return {
      header: this.#header,
      threads: this.#threads,
      sources: this.#sources,
      functions: this.#functions,
      files: this.#files,
      stacks: this.#stacks,
      samples,
      calls: new Map([...this.#calls].map(([thread, calls]) => [thread, calls.build()])),
      events: this.#events,
      unknownLines: this.#unknownLines,
      range: { startMs: 0, endMs: this.#endMs },
    };
  }

  /** A row with its times on the clock of the recording. */
  #onOneClock(row: Row): Row {
    const offsetMs = 'thread' in row && row.kind !== 'offset' ? this.#offsets.get(row.thread) : undefined;
    if (offsetMs === undefined || offsetMs === 0) return row;
    const moved: Record<string, unknown> = { ...row };
    const shape: Shape = ROW_SHAPES[row.kind];
    for (const [name, { type }] of Object.entries(shape)) {
      if (type === 'time' && moved[name] !== undefined) moved[name] = (moved[name] as number) + offsetMs;
    }
    return moved as unknown as Row;
  }

  #addFunction(row: RowOfKind<'function'>): string | undefined {
    if (row.owner !== undefined && !['own', 'library', 'browser'].includes(row.owner)) {
      return `"owner" must be own, library or browser, got ${JSON.stringify(row.owner.slice(0, 40))}`;
    }
    if (row.activity !== undefined && !(ENGINE_ACTIVITIES as readonly string[]).includes(row.activity)) {
      return `"activity" must be one of ${ENGINE_ACTIVITIES.join(', ')}, got ${JSON.stringify(row.activity.slice(0, 40))}`;
    }
    if (row.sameAs !== undefined && !this.#functions.has(row.sameAs))
      return `function ${row.sameAs} is unknown`;
    this.#functions.set(row.id, this.#owned(content(row) as RecordedFunction));
    return undefined;
  }

  /** Whose code it is, where only its script tells. */
  #owned(recorded: RecordedFunction): RecordedFunction {
    const source = recorded.source === undefined ? undefined : this.#sources.get(recorded.source);
    if (recorded.owner !== undefined || source === undefined) return recorded;
    return isLibraryPath(recorded.originalFile ?? source.url) ? { ...recorded, owner: 'library' } : recorded;
  }

  #addStack(row: RowOfKind<'stack'>): string | undefined {
    if (!this.#functions.has(row.function)) return `function ${row.function} is unknown`;
    if (row.parent !== undefined && this.#stacks.ofRow(row.parent) === undefined)
      return `parent ${row.parent} is unknown`;
    if (this.#stacks.ofRow(row.id) !== undefined) return `stack ${row.id} is there already`;
    const { line = 0, column = 0 } = row;
    this.#stacks.add(row.id, row.function, row.parent, { line, column });
    return undefined;
  }

  #addSamples(row: RowOfKind<'samples'>): string | undefined {
    if (this.#sampleCount + row.count > this.limits.samples) return tooMany(this.limits.samples, 'samples');
    let unpacked;
    try {
      unpacked = unpackSamples(row);
    } catch (error) {
      return (error as RangeError).message;
    }
    const stacks = unpacked.stacks.map((id) => (id < 0 ? NO_STACK : this.#stacks.ofRow(id)));
    const missing = stacks.indexOf(undefined);
    if (missing >= 0) return `stack ${unpacked.stacks[missing]} is unknown`;
    const ofThread = this.#samples.get(row.thread) ?? new Map<number, SampledSeries>();
    const { intervalMs } = row;
    const grown: SampledSeries = ofThread.get(intervalMs) ?? { intervalMs, timesUs: [], stacks: [] };
    this.#sampleCount += row.count;
    if (unpacked.together !== undefined || grown.together !== undefined) {
      grown.together ??= grown.timesUs.map(() => 1);
      for (let at = 0; at < row.count; at++) grown.together.push(unpacked.together?.[at] ?? 1);
    }
    for (const timeUs of unpacked.timesUs) grown.timesUs.push(timeUs);
    for (const stack of stacks) grown.stacks.push(stack!);
    ofThread.set(intervalMs, grown);
    this.#samples.set(row.thread, ofThread);
    this.#reach((unpacked.timesUs.at(-1) ?? 0) / 1000);
    return undefined;
  }

  #addCalls(row: RowOfKind<'calls'>, read: number | undefined): string | undefined {
    if (this.#callEventCount + row.count > this.limits.calls * 2) return tooMany(this.limits.calls, 'calls');
    let calls = this.#calls.get(row.thread);
    if (calls === undefined) {
      calls = new CallSpansBuilder(this.#stacks, (id) => this.#functions.has(id));
      this.#calls.set(row.thread, calls);
    }
    try {
      calls.add(row, read);
    } catch (error) {
      return (error as RangeError).message;
    }
    this.#callEventCount += row.count;
    this.#reach((calls.lastUs ?? 0) / 1000);
    return undefined;
  }

  #addEvent(row: Extract<Row, { kind: EventKind }>): string | undefined {
    if (!eventKinds.has(row.kind)) return 'its kind holds no events';
    if (row.kind === 'counts') {
      const problem = this.#countsProblem(row);
      if (problem !== undefined) return problem;
    }
    if ((row.kind === 'hang' || row.kind === 'weight') && row.stack !== undefined) {
      if (this.#stacks.ofRow(row.stack) === undefined) return `stack ${row.stack} is unknown`;
    }
    this.#events[row.kind].push(row as unknown as Record<string, unknown>);
    if (row.kind === 'weight') return undefined;
    if (row.kind === 'end') this.#reach(row.startMs);
    else this.#reach(row.startMs + ('durationMs' in row ? (row.durationMs ?? 0) : 0));
    return undefined;
  }

  #countsProblem(row: RowOfKind<'counts'>): string | undefined {
    try {
      const missing = unpackCounts(row).functions.find((id) => !this.#functions.has(id));
      return missing === undefined ? undefined : `function ${missing} is unknown`;
    } catch (error) {
      return (error as RangeError).message;
    }
  }

  #reach(ms: number): void {
    if (ms > this.#endMs) this.#endMs = ms;
  }
}

function tooMany(most: number, what: string): string {
  return `there are more than ${countText(most)} ${what}, which is as many as are read of one recording`;
}

function content<R extends Row>(row: R): Omit<R, 'kind'> {
  const { kind: _kind, ...rest } = row;
  return rest;
}
