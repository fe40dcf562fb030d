import { textPart, type Row } from '@nettle-patch/core';
import { originalText } from './exact/function-text';
import { plainAddress } from './address';

/** Scripts and functions of one recording: each gets a row when it is first met and an id for good. */
export class InternedTables {
  readonly #sources = new Map<string, number>();
  readonly #functions = new Map<string, number>();
  readonly #objects = new WeakMap<object, number>();

  /** @param firstId the least id that is given */
  constructor(
    protected readonly emit: (row: Row) => void,
    private readonly firstId = 0,
  ) {}

  /** @returns id of the script, or undefined for code without an address, which is the engine's own. */
  source(url: string): number | undefined {
    const address = url === '' ? '' : plainAddress(url);
    if (address === '') return undefined;
    return this.intern(this.#sources, address, (id) => this.emit({ kind: 'source', id, url: address }));
  }

  /** A function by line and column of its start, both from 1. */
  functionAt(name: string, url: string, line?: number, column?: number): number {
    const source = this.source(url);
    return this.intern(this.#functions, `${source} ${line} ${column} ${name}`, (id) =>
      this.emit({ kind: 'function', id, name, ...defined({ source, line, column }) }),
    );
  }

  /** A function by its offset in the script, from 0. */
  functionAtOffset(name: string, url: string, position: number): number {
    const source = this.source(url);
    return this.intern(this.#functions, `${source} @${position} ${name}`, (id) =>
      this.emit({ kind: 'function', id, name, ...defined({ source, position }) }),
    );
  }

  /**
   * A function of the app of which nothing but itself is known: it is found again by a part of its text.
   * @returns undefined for what is none
   */
  functionLike(callback: unknown): number | undefined {
    if (typeof callback !== 'function') return undefined;
    const { name } = callback;
    let id = this.#objects.get(callback);
    if (id === undefined) {
      const part = textPart(originalText(callback));
      id = this.intern(this.#functions, `like ${part?.partHash} ${part?.partLength} ${name}`, (newId) =>
        this.emit({ kind: 'function', id: newId, name, owner: 'own', ...part }),
      );
      this.#objects.set(callback, id);
    }
    return id;
  }

  /** A place inside a function, by line and column from 1. */
  placeAt(name: string, url: string, line: number, column: number): number {
    const source = this.source(url);
    return this.intern(this.#functions, `place ${source} ${line} ${column} ${name}`, (id) =>
      this.emit({ kind: 'function', id, name, ...defined({ source }), line, column, place: true }),
    );
  }

  protected intern(table: Map<string, number>, key: string, onNew: (id: number) => void): number {
    let id = table.get(key);
    if (id === undefined) {
      id = this.firstId + table.size;
      table.set(key, id);
      onNew(id);
    }
    return id;
  }
}

/** The same object without the fields that are undefined. */
export function defined<T extends object>(fields: T): { [Key in keyof T]?: Exclude<T[Key], undefined> } {
  return Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)) as never;
}
