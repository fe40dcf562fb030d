const MARKS = /[\u0300-\u036f]/g;
const LETTERS: Readonly<Record<string, string>> = { ø: 'o', æ: 'ae', å: 'a' };

/** A text without accents and in lower case, so that "Håkon" is found by "hakon". Looks at every letter. */
export function foldAccents(text: string): string {
  let folded = '';
  for (const letter of text.toLowerCase()) {
    folded += LETTERS[letter] ?? (letter < '\x7f' ? letter : letter.normalize('NFD').replace(MARKS, ''));
  }
  return folded;
}
