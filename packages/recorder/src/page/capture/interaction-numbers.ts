/**
 * Numbers interactions where no engine does: a press of a pointer or of a key begins one. A value that has changed tells
 * of neither, so that it is part of the one that began last.
 */
export class InteractionNumbers {
  readonly #current = new Map<boolean, number>();
  #last = 0;
  #isKey = false;

  /** The number of the interaction that an event of a type is part of. Ask once for each event, as they come. */
  of(type: string): number {
    const begins = type.endsWith('down');
    const isKey = type === 'input' ? this.#isKey : type.startsWith('key');
    if (begins) this.#isKey = isKey;
    let number = begins ? undefined : this.#current.get(isKey);
    if (number === undefined) this.#current.set(isKey, (number = ++this.#last));
    return number;
  }
}
