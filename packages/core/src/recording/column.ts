import type { Field, FieldType } from '../format/fields';

/** Values of optional fields that are absent, by the type of their column. */
export const ABSENT_NUMBER = Number.NaN;
export const ABSENT_WHOLE = -1;
export const ABSENT_TEXT = 0;

type ColumnArray = Float64Array | Int32Array;

/** Interned strings. Text 0 stands for an absent text. */
export class TextPool {
  readonly #texts: string[];
  readonly #ids = new Map<string, number>();

  constructor(texts: readonly string[] = ['']) {
    this.#texts = [...texts];
    for (let id = 1; id < this.#texts.length; id++) this.#ids.set(this.#texts[id]!, id);
  }

  /** Id of a text, 1 or more. */
  id(text: string): number {
    let id = this.#ids.get(text);
    if (id === undefined) {
      id = this.#texts.push(text) - 1;
      this.#ids.set(text, id);
    }
    return id;
  }

  text(id: number): string {
    return this.#texts[id] ?? '';
  }

  list(): readonly string[] {
    return this.#texts;
  }
}

function allocate(type: FieldType, capacity: number): ColumnArray {
  return type === 'time' || type === 'duration' ? new Float64Array(capacity) : new Int32Array(capacity);
}

/** One growing column of a table: numbers as they are, texts by their id in a pool, flags as 0 and 1. */
export class Column {
  #values: ColumnArray;
  #length = 0;

  constructor(
    readonly field: Field,
    private readonly texts: TextPool,
    capacity = 16,
  ) {
    this.#values = allocate(field.type, capacity);
  }

  get values(): ColumnArray {
    return this.#values.subarray(0, this.#length);
  }

  /** Takes values that are encoded already in place of its own. */
  take(values: ColumnArray): void {
    this.#values = values.length > 0 ? values : allocate(this.field.type, 1);
    this.#length = values.length;
  }

  push(value: unknown): void {
    if (this.#length === this.#values.length) {
      const larger = allocate(this.field.type, this.#length * 2);
      larger.set(this.#values);
      this.#values = larger;
    }
    this.#values[this.#length++] = this.#encode(value);
  }

  /** Brings the values into a new order: the value at `order[i]` comes to `i`. */
  reorder(order: Uint32Array): void {
    const sorted = allocate(this.field.type, Math.max(16, this.#length));
    for (let index = 0; index < this.#length; index++) sorted[index] = this.#values[order[index]!]!;
    this.#values = sorted;
  }

  /** The value as it stands in a row; undefined when absent. */
  read(index: number): number | string | boolean | undefined {
    const value = this.#values[index]!;
    switch (this.field.type) {
      case 'text':
        return value === ABSENT_TEXT ? undefined : this.texts.text(value);
      case 'flag':
        return value === ABSENT_WHOLE ? undefined : value === 1;
      case 'whole':
        return value === ABSENT_WHOLE ? undefined : value;
      default:
        return Number.isNaN(value) ? undefined : value;
    }
  }

  #encode(value: unknown): number {
    switch (this.field.type) {
      case 'text':
        return value === undefined ? ABSENT_TEXT : this.texts.id(value as string);
      case 'flag':
        return value === undefined ? ABSENT_WHOLE : Number(value);
      case 'whole':
        return value === undefined ? ABSENT_WHOLE : (value as number);
      default:
        return value === undefined ? ABSENT_NUMBER : (value as number);
    }
  }
}
