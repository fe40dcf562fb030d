const MARKS = /[\u0300-\u036f]/g;
const LETTERS: Readonly<Record<string, string>> = { ø: 'o', æ: 'ae', å: 'a' };

/** A text without accents and in lower case, so that "Håkon" is found by "hakon". Looks at every letter. */
export function foldAccents(text: string): string {
  const letters = text.toLowerCase().split('');
  return letters.map((letter) => LETTERS[letter] ?? letter.normalize('NFD').replace(MARKS, '')).join('');
}
