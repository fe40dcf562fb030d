import { describe, expect, it } from 'vitest';
import { recordingOf } from '../testing/arbitrary-recording';
import { fitsPattern, withOwners } from './owner-patterns';

describe('a pattern of paths', () => {
  it.each([
    ['src/deck/trim.ts', 'src/**', true],
    ['src/deck/trim.ts', 'src/*', false],
    ['src/deck/trim.ts', 'deck/*.ts', true],
    ['src/deck/trim.ts', 'trim.ts', true],
    ['src/deck/trim.ts', 'rim.ts', false],
    ['http://localhost:4781/vendor/tides.js', 'vendor/**', true],
    ['src/a+b.ts', 'src/a+b.ts', true],
    ['src/aab.ts', 'src/a+b.ts', false],
    ['packages/fares/src/table.ts', 'packages/**/table.ts', true],
  ])('%s and %s', (path, pattern, fits) => {
    expect(fitsPattern(path, pattern)).toBe(fits);
  });
});

describe('whose code it is', () => {
  const recording = recordingOf([
    { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
    { kind: 'function', id: 0, name: 'trim', source: 0, originalFile: 'src/deck/trim.ts', owner: 'own' },
    { kind: 'function', id: 1, name: 'tides', source: 0, originalFile: 'src/vendor/tides.ts', owner: 'own' },
    { kind: 'function', id: 2, name: 'boot', source: 0, line: 1, column: 1 },
  ]);
  const ownersUnder = (own: string[], library: string[]) => {
    const { functions } = withOwners(recording, { own, library });
    return [0, 1, 2].map((id) => functions.get(id)?.owner);
  };

  it('stays as it is without patterns', () => {
    expect(withOwners(recording, { own: [], library: [] })).toBe(recording);
    expect(ownersUnder(['lanes/**'], [])).toEqual(['own', 'own', undefined]);
  });

  it('follows the patterns, own before library, by the address where there is no original file', () => {
    expect(ownersUnder([], ['vendor/**', 'desk.js'])).toEqual(['own', 'library', 'library']);
    expect(ownersUnder(['vendor/**'], ['src/**'])).toEqual(['library', 'own', undefined]);
  });

  it('does not change the recording it is asked for', () => {
    ownersUnder([], ['**']);
    expect(recording.functions.get(0)?.owner).toBe('own');
  });
});
