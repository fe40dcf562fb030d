/** What a value is, as text: the same text means the same value, as far as its kind can be compared. */
export interface ValueText {
  readonly text: string;
  /** Whether all of it could be told: what a function does cannot, nor what lies beyond the longest text. */
  readonly isWhole: boolean;
}

const MAX_LETTERS = 2_000_000;

/** Writes values so that those that are the same are written the same, whichever order their names stand in. */
class ValueWriter {
  readonly #pieces: string[] = [];
  readonly #within: object[] = [];
  #letters = 0;
  isWhole = true;

  get text(): string {
    return this.#pieces.join('');
  }

  write(value: unknown): void {
    if (this.#letters > MAX_LETTERS) this.isWhole = false;
    else if (typeof value === 'object' && value !== null) this.#object(value);
    else if (typeof value === 'string') this.#put(JSON.stringify(value));
    else if (typeof value === 'bigint') this.#put(`${value}n`);
    else if (typeof value === 'function' || typeof value === 'symbol') this.#untold(typeof value);
    else this.#put(Object.is(value, -0) ? '-0' : String(value));
  }

  #put(text: string): void {
    this.#pieces.push(text);
    this.#letters += text.length;
  }

  #untold(what: string): void {
    this.isWhole = false;
    this.#put(`[${what}]`);
  }

  #object(value: object): void {
    const at = this.#within.indexOf(value);
    if (at >= 0) {
      this.#put(`[itself, ${this.#within.length - at} up]`);
      return;
    }
    this.#within.push(value);
    this.#content(value);
    this.#within.pop();
  }

  #content(value: object): void {
    if (Array.isArray(value)) this.#list('[', value, ']');
    else if (value instanceof Map) this.#list('Map ', [...value], '');
    else if (value instanceof Set) this.#list('Set ', [...value], '');
    else if (value instanceof Date) this.#put(`Date ${value.getTime()}`);
    else if (value instanceof RegExp) this.#put(String(value));
    else if (value instanceof Error) this.#put(`${value.name}: ${value.message}`);
    else if (value instanceof ArrayBuffer) this.#list('bytes ', [...new Uint8Array(value)], '');
    else if (ArrayBuffer.isView(value) && !(value instanceof DataView))
      this.#list(`${value.constructor.name} `, [...(value as unknown as Iterable<unknown>)], '');
    else if (typeof Node === 'function' && value instanceof Node) this.#node(value);
    else if (value instanceof Promise || value instanceof WeakMap || value instanceof WeakSet)
      this.#untold(value.constructor.name);
    else this.#properties(value);
  }

  #node(node: Node): void {
    this.#put(node instanceof Element ? node.outerHTML : `${node.nodeName} ${node.textContent ?? ''}`);
  }

  #list(before: string, items: readonly unknown[], after: string): void {
    this.#put(before);
    items.forEach((item, at) => {
      if (at > 0) this.#put(', ');
      this.write(item);
    });
    this.#put(after);
  }

  #properties(value: object): void {
    const prototype = Object.getPrototypeOf(value) as { constructor?: { name?: string } } | null;
    const name =
      prototype === null || prototype === Object.prototype ? '' : (prototype.constructor?.name ?? '');
    this.#put(name === '' ? '{' : `${name} {`);
    Object.keys(value)
      .sort()
      .forEach((key, at) => {
        this.#put(`${at > 0 ? ', ' : ''}${key}: `);
        this.write((value as Record<string, unknown>)[key]);
      });
    this.#put('}');
  }
}

export function valueText(value: unknown): ValueText {
  const writer = new ValueWriter();
  writer.write(value);
  return { text: writer.text, isWhole: writer.isWhole };
}
