import { crc32 } from '../format/crc32';
import type { Header } from '../format/header';
import type { Row, RowContent } from '../format/rows';
import { FORMAT_NAME } from '../format/version';

/** What is known of a file beside its text. */
export interface FileFacts {
  /** Name for people. */
  readonly name: string;
  /** When it was written last, in milliseconds since the epoch. */
  readonly writtenMs: number;
}

/** What a reader of another format has found. */
export interface Imported {
  /** Name of the format for people. */
  readonly format: string;
  readonly rows: readonly Row[];
  /** Sources the format can tell of, as `available` of the header. */
  readonly available: readonly string[];
  /** What the format could not carry, or the file did not hold, in sentences. */
  readonly lost: readonly string[];
  /** When its time 0 was, where the format tells. Milliseconds since the epoch. */
  readonly startedMs?: number;
  /** Address it is of, where the format tells. */
  readonly url?: string;
  /** Whether it has no times of its own, so that nothing can be said but how much each stack took in all. */
  readonly timeless?: true;
  /** What its stacks weigh, where they carry weights in place of times. */
  readonly weightUnit?: string;
}

/** A format that recordings are read from beside their own. */
export interface OpenFormat<Value = unknown> {
  /** What a file of it is called, in a sentence. */
  readonly name: string;
  /** Whether it is JSON, so that its value is looked at and not its text. */
  readonly isJson: boolean;
  recognises(value: unknown): value is Value;
  /** @throws RefusedRecordingError that says where it departs from the format */
  read(value: Value): Imported;
}

const MAX_TITLE = 120;

/** The header of what was read from another format. The same content has the same id. */
export function importedHeader(text: string, facts: FileFacts, imported: Imported): Header {
  const sum = crc32(new TextEncoder().encode(text)).toString(16).padStart(8, '0');
  const { format, available, startedMs, url, timeless, weightUnit } = imported;
  return {
    kind: 'header',
    format: FORMAT_NAME,
    version: '1.0',
    id: `imported-${sum}-${text.length}`,
    startedAt: new Date(startedMs ?? facts.writtenMs).toISOString(),
    title: facts.name.slice(0, MAX_TITLE),
    mode: 'everyday',
    startUp: false,
    clockStepMs: 0.1,
    refreshMs: 1000 / 60,
    target: { title: facts.name, url: url ?? '', engine: format, device: '' },
    available: [...available],
    missing: [],
    ...(timeless === undefined ? {} : { timeless }),
    ...(weightUnit === undefined ? {} : { weightUnit }),
  };
}

/** Gives each script, function and stack that is met a row and an id of its own. */
export class ImportedTables {
  readonly rows: Row[] = [];
  readonly #ids = new Map<string, number>();
  readonly #counts = { source: 0, function: 0, stack: 0 };

  source(url: string): number {
    return this.#id('source', url, (id) => ({ kind: 'source', id, url }));
  }

  function(recorded: Omit<RowContent<'function'>, 'id'>): number {
    return this.#id('function', JSON.stringify(recorded), (id) => ({ kind: 'function', id, ...recorded }));
  }

  /** @param parent id of the caller's stack; absent at the root */
  stack(functionId: number, parent: number | undefined): number {
    const row = { function: functionId, ...(parent === undefined ? {} : { parent }) };
    return this.#id('stack', `${functionId} ${parent ?? ''}`, (id) => ({ kind: 'stack', id, ...row }));
  }

  #id(table: 'source' | 'function' | 'stack', key: string, row: (id: number) => Row): number {
    const whole = `${table} ${key}`;
    let id = this.#ids.get(whole);
    if (id === undefined) {
      id = this.#counts[table]++;
      this.#ids.set(whole, id);
      this.rows.push(row(id));
    }
    return id;
  }
}

/** An address without query, fragment and credentials, none of which are kept. */
export function withoutSecrets(url: string): string {
  try {
    const { origin, protocol, pathname } = new URL(url);
    return origin === 'null' ? `${protocol}${pathname}` : `${origin}${pathname}`;
  } catch {
    return url.replace(/[?#].*$/s, '');
  }
}

/** A finite number, or nothing. */
export function numberIn(value: unknown): number | undefined {
  return typeof value === 'number' && Number.isFinite(value) ? value : undefined;
}

export function textIn(value: unknown): string {
  return typeof value === 'string' ? value : '';
}

/** "3 entries" or "1 entry". */
export function counted(count: number, one: string, many: string): string {
  return `${count} ${count === 1 ? one : many}`;
}
