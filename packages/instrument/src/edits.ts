import MagicString from 'magic-string';

/** What is put in, which may hold the number of a function that is given later: by the number of the first. */
export type Piece = string | ((firstId: number) => string);

interface Edit {
  readonly at: number;
  /** End of what is taken out; `at` where something is put in. */
  readonly until: number;
  readonly piece: Piece;
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

  open(at: number, piece: Piece): void {
    this.#put(at, piece, this.#edits.length + 1);
  }

  close(at: number, piece: Piece): void {
    this.#put(at, piece, -this.#edits.length - 1);
  }

  /** Puts a piece between what closes and what opens at an offset. */
  between(at: number, piece: Piece): void {
    this.#put(at, piece, 0);
  }

  remove(at: number, until: number): void {
    this.#edits.push({ at, until, piece: '', rank: Infinity });
  }

  #put(at: number, piece: Piece, rank: number): void {
    this.#edits.push({ at, until: at, piece, rank });
  }

  #sorted(): Edit[] {
    return this.#edits.sort((a, b) => a.at - b.at || a.rank - b.rank);
  }

  /** The text with all edits made. */
  applyTo(text: string, firstId: number): string {
    const pieces: string[] = [];
    let done = 0;
    for (const { at, until, piece } of this.#sorted()) {
      if (at > done) pieces.push(text.slice(done, at));
      pieces.push(written(piece, firstId));
      done = Math.max(done, until);
    }
    pieces.push(text.slice(done));
    return pieces.join('');
  }

  /** The same as a text that knows where each part of it came from, which takes far longer. */
  tracedOn(text: string, firstId: number): MagicString {
    const traced = new MagicString(text);
    for (const { at, until, piece } of this.#sorted()) {
      if (until > at) traced.remove(at, until);
      else if (at === text.length) traced.append(written(piece, firstId));
      else traced.appendLeft(at, written(piece, firstId));
    }
    return traced;
  }
}

function written(piece: Piece, firstId: number): string {
  return typeof piece === 'string' ? piece : piece(firstId);
}
