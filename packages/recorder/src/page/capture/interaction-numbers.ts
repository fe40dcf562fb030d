const KEY_TYPES = new Set<string>(['keydown', 'keyup', 'input']);
const BEGINNINGS = new Set<string>(['pointerdown', 'keydown']);

/** Numbers interactions where no engine does: a press of a pointer or of a key begins one. */
export class InteractionNumbers {
  readonly #current = { pointer: 0, key: 0 };
  #last = 0;

  /** The number of the interaction that an event of a type is part of. Ask once for each event, as they come. */
  of(type: string): number {
    const device = KEY_TYPES.has(type) ? 'key' : 'pointer';
    if (BEGINNINGS.has(type) || this.#current[device] === 0) this.#current[device] = ++this.#last;
    return this.#current[device];
  }
}
