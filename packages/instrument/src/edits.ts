import MagicString from 'magic-string';

interface Edit {
  readonly at: number;
  /** End of what is taken out; `at` where something is put in. */
  readonly until: number;
  readonly text: string;
  /** At one offset, what has a lower rank comes first. */
  readonly rank: number;
}

/**
 * What is put into a text and taken out of it. Pieces that open something around a node are given before those of the
 * nodes within, and stand in that order at one offset; pieces that close something stand the other way round, and before
 * those that open.
 */
export class Edits {
  readonly #edits: Edit[] = [];

  open(at: number, text: string): void {
    this.#put(at, text, this.#edits.length + 1);
  }

  close(at: number, text: string): void {
    this.#put(at, text, -this.#edits.length - 1);
  }

  /** Puts a piece between what closes and what opens at an offset. */
  between(at: number, text: string): void {
    this.#put(at, text, 0);
  }

  remove(at: number, until: number): void {
    this.#edits.push({ at, until, text: '', rank: Infinity });
  }

  #put(at: number, text: string, rank: number): void {
    this.#edits.push({ at, until: at, text, rank });
  }

  #sorted(): Edit[] {
    return this.#edits.sort((a, b) => a.at - b.at || a.rank - b.rank);
  }

  /** The text with all edits made. */
  applyTo(text: string): string {
    const pieces: string[] = [];
    let done = 0;
    for (const { at, until, text: piece } of this.#sorted()) {
      if (at > done) pieces.push(text.slice(done, at));
      pieces.push(piece);
      done = Math.max(done, until);
    }
    pieces.push(text.slice(done));
    return pieces.join('');
  }

  /** The same as a text that knows where each part of it came from, which takes far longer. */
  tracedOn(text: string): MagicString {
    const traced = new MagicString(text);
    for (const { at, until, text: piece } of this.#sorted()) {
      if (until > at) traced.remove(at, until);
      else if (at === text.length) traced.append(piece);
      else traced.appendLeft(at, piece);
    }
    return traced;
  }
}
