import type { Step } from '@nettle-patch/core';

/** Fields whose text is never kept. */
const SECRET_PURPOSE = /password|one-time|cc-|token/;

const PASSWORDS = 'input[type=password]';
/** Fields that were once for passwords: a page may show what is in them. */
const oncePasswords = new WeakSet<Element>();

/** Remembers the fields for passwords around an element, before the page can have them show what is in them. */
export function rememberPasswords(around: Node): void {
  const root = around.getRootNode() as Partial<ParentNode>;
  for (const field of [
    ...document.querySelectorAll(PASSWORDS),
    ...(root.querySelectorAll?.(PASSWORDS) ?? []),
  ])
    oncePasswords.add(field);
}

/**
 * Whether what is typed into an element may not be kept. Of a field that cannot be seen, as it is in a closed shadow
 * tree, nothing is known, so nothing is kept.
 */
export function isSecret(element: EventTarget | undefined): boolean {
  if (element instanceof HTMLTextAreaElement) return false;
  if (!(element instanceof HTMLInputElement))
    return element !== document.body && !(element as Partial<HTMLElement>)?.isContentEditable;
  return (
    oncePasswords.has(element) || element.type === 'password' || SECRET_PURPOSE.test(element.autocomplete)
  );
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
