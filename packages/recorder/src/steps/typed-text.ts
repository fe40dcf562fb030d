import type { Step } from '@nettle-patch/core';

/** Fields whose text is never kept. */
const SECRET_PURPOSE = /password|one-time|cc-|token/;

export function isSecret(element: Element): boolean {
  if (!(element instanceof HTMLInputElement)) return false;
  return element.type === 'password' || SECRET_PURPOSE.test(element.autocomplete);
}

/** Letters that a person types in one go. */
export class TypedText {
  #length = 0;
  #text = '';
  endMs: number;

  /** @param keepsText whether the text itself is kept, and not its length only */
  constructor(
    readonly startMs: number,
    readonly field: Element,
    private readonly keepsText: boolean,
  ) {
    this.endMs = startMs;
  }

  add(letters: string, atMs: number): void {
    this.endMs = atMs;
    this.#length += [...letters].length;
    if (this.keepsText) this.#text += letters;
  }

  get step(): Step {
    const what = this.keepsText ? { text: this.#text } : { length: this.#length };
    const gaps = this.#length - 1;
    if (gaps < 1) return { do: 'type', ...what };
    return { do: 'type', ...what, everyMs: Math.round((this.endMs - this.startMs) / gaps) };
  }
}
