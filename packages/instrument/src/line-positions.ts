import type { CallsOut } from './weight';

/** A position in a function at which something that takes time begins. */
export interface MarkedPosition {
  /** Number of the function among those of the script, or undefined at its top level. */
  readonly functionNumber: number | undefined;
  /** Offset in the text. */
  readonly start: number;
  readonly before: Latest;
  /** Whether code may be called there that was not rewritten, which takes a look of its own. */
  callsOut: CallsOut;
  /** Whether it is that of the function itself, which is told on entry. */
  readonly isEntry?: boolean;
}

/** The positions of which one was marked last, whichever way was taken; undefined where that is not known. */
export type Latest = readonly MarkedPosition[] | undefined;

/** Of so many ways at most is it known which of them were taken. */
const MAX_WAYS = 4;

/** What was marked last, where one of two ways was taken. */
export function eitherOf(one: Latest, other: Latest): Latest {
  if (one === undefined || other === undefined) return undefined;
  const ways = [...new Set([...one, ...other])];
  return ways.length > MAX_WAYS ? undefined : ways;
}

/** A position within as many columns of the one before it, on the same line, is no other. */
const SAME_COLUMNS = 100;

const CALLS_NOTHING: CallsOut = { certain: false, names: [] };

/** Where in its source a position is. */
interface Place {
  readonly file: string | undefined;
  readonly line: number;
  readonly column: number;
}

const isSamePlace = (one: Place, other: Place): boolean =>
  one.file === other.file && one.line === other.line && Math.abs(one.column - other.column) < SAME_COLUMNS;

/** The positions of a script. Which of them are marked is settled when all are known. */
export class LinePositions {
  readonly #positions: MarkedPosition[] = [];
  /** By position: its number, from 0; none is given to those that are no other than the one before. */
  readonly #numbers = new Map<MarkedPosition, number>();
  /** Positions at which code may be called that was not rewritten. */
  readonly #callingOut = new Set<MarkedPosition>();
  /** Names of what the script has itself that tells of its calls, or is too small to. */
  readonly #own = new Set<string>();

  /** @param idOf gives the id of a position by its number, and the id of the first function */
  constructor(private readonly idOf: (number: number, firstId: number) => number) {}

  /** Notes a function or class of the script: what is called by its name is looked at as it is entered. */
  define(name: string): void {
    this.#own.add(name);
  }

  /** @param before what is marked last before it */
  add(
    functionNumber: number | undefined,
    start: number,
    before: Latest,
    callsOut = CALLS_NOTHING,
  ): MarkedPosition {
    return this.#put({ functionNumber, start, before, callsOut });
  }

  /** That of a function itself. */
  addEntry(functionNumber: number, start: number): MarkedPosition {
    return this.#put({ functionNumber, start, before: undefined, callsOut: CALLS_NOTHING, isEntry: true });
  }

  #put(position: MarkedPosition): MarkedPosition {
    this.#positions.push(position);
    return position;
  }

  /**
   * Settles which positions there are, and numbers them.
   * @param placeOf the original position of an offset
   * @returns those that are marked, in order of their numbers
   */
  settle(placeOf: (start: number) => Place): MarkedPosition[] {
    const places = new Map(this.#positions.map((position) => [position, placeOf(position.start)]));
    const isNoOther = (position: MarkedPosition) =>
      position.before?.every((before) => isSamePlace(places.get(before)!, places.get(position)!)) === true;
    for (const position of this.#positions.toReversed()) {
      const { certain, names } = position.callsOut;
      if (certain || names.some((name) => !this.#own.has(name))) this.#callingOut.add(position);
      // What is called at a position that is no other is called at the one before it.
      if (this.#callingOut.has(position) && isNoOther(position))
        for (const before of position.before!) if (before.isEntry !== true) this.#callingOut.add(before);
    }
    const marked: MarkedPosition[] = [];
    for (const position of this.#positions) {
      const isCallAtEntry =
        this.callsOut(position) && position.before?.some(({ isEntry }) => isEntry) === true;
      if (position.isEntry || (isNoOther(position) && !isCallAtEntry)) continue;
      this.#numbers.set(position, marked.length);
      marked.push(position);
    }
    return marked;
  }

  isMarked(position: MarkedPosition): boolean {
    return this.#numbers.has(position);
  }

  /** Whether code may be called there that was not rewritten, once that is settled. */
  callsOut(position: MarkedPosition): boolean {
    return this.#callingOut.has(position);
  }

  /** Id of a position, or of the one before it where it is no other. @param firstId of the functions of the script */
  idOfPosition(position: MarkedPosition, firstId: number): number | undefined {
    let at: MarkedPosition | undefined = position;
    while (at !== undefined && !this.#numbers.has(at)) at = at.before?.[0];
    const number = at && this.#numbers.get(at);
    return number === undefined ? undefined : this.idOf(number, firstId);
  }
}
