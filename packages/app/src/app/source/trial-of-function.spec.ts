import { describe, expect, it } from 'vitest';
import { trialOfFunction } from './trial-of-function';

const FILE = 'src/manifest/fold.ts';
const TEXT = `import { quay } from './quay';
const MARKS = /[\\u0300-\\u036f]/g;
const LETTERS: Readonly<Record<string, string>> = { ø: 'o' };
const unused = 1;

/** A text without accents. */
export function foldAccents(text: string): string {
  return text.normalize('NFD').replace(MARKS, (letter) => plain(letter));
}

export const plain = (letter: string) => LETTERS[letter] ?? quay(letter);

class Manifest {
  async search(typed: string) {
    return foldAccents(typed);
  }
}
`;
const trialAt = (line: number) => trialOfFunction({ file: FILE, text: TEXT, line });

describe('a trial that begins with a function', () => {
  it('has the function, what it needs of its file, and what that needs, in order', () => {
    const trial = trialAt(7)!;
    expect(trial.setUp.split('\n')).toEqual([
      '// What foldAccents is called with: (text: string)',
      'const given = [];',
      '',
      '// What it needs of src/manifest/fold.ts',
      "// as the app serves it: import { quay } from './quay';",
      'const MARKS = /[\\u0300-\\u036f]/g;',
      "const LETTERS: Readonly<Record<string, string>> = { ø: 'o' };",
      'const plain = (letter: string) => LETTERS[letter] ?? quay(letter);',
    ]);
    expect(trial.alternatives.map(({ name }) => name)).toEqual(['As it is', 'Another way']);
    expect(trial.alternatives[0]!.code).toBe(
      `${TEXT.split('\n').slice(6, 9).join('\n').replace('export ', '')}\n\nreturn foldAccents(...given);`,
    );
  });

  it('is found from a line within it', () => {
    expect(trialAt(8)?.name).toBe('Ways of foldAccents');
  });

  it('makes a declaration of an arrow function and of a method', () => {
    expect(trialAt(11)?.alternatives[0]!.code).toContain('const plain = (letter: string) =>');
    expect(trialAt(14)?.alternatives[0]!.code).toContain('async function search(typed: string) {');
    expect(trialAt(14)?.setUp).toContain('function foldAccents');
  });

  it('is none where there is no function', () => {
    expect(trialAt(4)).toBeUndefined();
  });
});
