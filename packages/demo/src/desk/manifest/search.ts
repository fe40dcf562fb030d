import type { Passenger } from '../../data/passengers';
import { foldAccents } from './fold';

/** How well a name fits what was typed: the number of typed words that some word of the name begins with. */
function fit(nameWords: readonly string[], typedWords: readonly string[]): number {
  return typedWords.filter((typed) => nameWords.some((word) => word.startsWith(typed))).length;
}

function wordsOf(text: string): string[] {
  return foldAccents(text)
    .split(/\s+/)
    .filter((word) => word !== '');
}

function familyName(passenger: Passenger): string {
  return wordsOf(passenger.name).at(-1)!;
}

function givenName(passenger: Passenger): string {
  return wordsOf(passenger.name)[0]!;
}

/** In order of the family name, then of the given name. Folds and splits all names for every comparison. */
function compareNames(a: Passenger, b: Passenger): number {
  const first = `${familyName(a)} ${givenName(a)}`;
  const second = `${familyName(b)} ${givenName(b)}`;
  return first.localeCompare(second);
}

/** Searches by sorting all passengers, and folding and splitting every name, each time. */
export function searchSlowly(passengers: readonly Passenger[], typed: string): Passenger[] {
  const typedWords = wordsOf(typed);
  const sorted = [...passengers].sort(compareNames);
  return sorted.filter((passenger) => fit(wordsOf(passenger.name), typedWords) === typedWords.length);
}

interface Indexed {
  readonly passenger: Passenger;
  readonly words: readonly string[];
}

/** Searches an index that is folded, split and sorted once. */
export class ManifestIndex {
  readonly #sorted: readonly Indexed[];

  constructor(passengers: readonly Passenger[]) {
    const order = new Intl.Collator('en');
    const indexed = passengers.map((passenger) => ({ passenger, words: wordsOf(passenger.name) }));
    const compare = (a: string[], b: string[]) =>
      order.compare(a.at(-1)!, b.at(-1)!) || order.compare(a[0]!, b[0]!);
    this.#sorted = indexed.sort((a, b) => compare(a.words, b.words));
  }

  search(typed: string): Passenger[] {
    const typedWords = wordsOf(typed);
    return this.#sorted
      .filter(({ words }) => fit(words, typedWords) === typedWords.length)
      .map(({ passenger }) => passenger);
  }
}
