import { describe, expect, it } from 'vitest';
import type { RecordedFunction } from '../recording/functions';
import { ScriptResolver } from './resolve-script';
import { textsOf } from './source-texts';

const SCRIPT = 'http://localhost:4781/desk.js';
const LIBRARY = 'node_modules/tide-tables/index.js';

function resolverWith(contents: Readonly<Record<string, string | null>>): Map<number, ScriptResolver> {
  const map = {
    version: 3,
    sources: Object.keys(contents),
    sourcesContent: Object.values(contents),
    names: [],
    mappings: '',
  };
  return new Map([
    [
      0,
      new ScriptResolver({ url: SCRIPT, text: 'run()', map: JSON.stringify(map), mapUrl: `${SCRIPT}.map` }),
    ],
  ]);
}

const functionIn = (
  originalFile: string | undefined,
  owner: 'own' | 'library' = 'own',
): RecordedFunction => ({
  id: 0,
  name: 'x',
  source: 0,
  owner,
  ...(originalFile === undefined ? {} : { originalFile }),
});

describe('texts beside the functions', () => {
  it('are those of the files that functions are in, each once', () => {
    const resolvers = resolverWith({ '../src/deck/trim.ts': 'trim', '../src/deck/lanes.ts': 'lanes' });
    const texts = textsOf([functionIn('src/deck/trim.ts'), functionIn('src/deck/trim.ts')], resolvers);
    expect(texts).toEqual([{ file: 'src/deck/trim.ts', text: 'trim' }]);
  });

  it('are those of the script itself where a function has no original place', () => {
    expect(textsOf([functionIn(undefined)], resolverWith({}))).toEqual([{ file: SCRIPT, text: 'run()' }]);
  });

  it('are left out where the map does not carry them', () => {
    expect(textsOf([functionIn('src/deck/trim.ts')], resolverWith({ '../src/deck/trim.ts': null }))).toEqual(
      [],
    );
  });

  it('are own code first, and none that is too long', () => {
    const resolvers = resolverWith({
      [`../${LIBRARY}`]: 'tides',
      '../src/deck/trim.ts': 'trim',
      '../src/fares.ts': 'x'.repeat(1_000_001),
    });
    const functions = [
      functionIn(LIBRARY, 'library'),
      functionIn('src/fares.ts'),
      functionIn('src/deck/trim.ts'),
    ];
    expect(textsOf(functions, resolvers).map(({ file }) => file)).toEqual(['src/deck/trim.ts', LIBRARY]);
  });
});
