import { describe, expect, it } from 'vitest';
import { recordingOf } from '../testing/arbitrary-recording';
import { hasLibraryBanner } from './library-banner';
import { isLibraryPath, originalPath } from '../recording/original-path';
import { resolveFunctions } from './resolve';

describe('paths of original sources', () => {
  it('lose scheme, host, query and leading dots', () => {
    for (const given of [
      'webpack://desk/./src/deck/trim.ts?1f',
      '../../src/deck/trim.ts',
      'http://localhost:5173/src/deck/trim.ts?t=12',
    ]) {
      expect(originalPath(given)).toBe('src/deck/trim.ts');
    }
  });

  it('tell what a package manager brought', () => {
    expect(isLibraryPath('node_modules/tides/index.js')).toBe(true);
    expect(isLibraryPath('src/vendors/list.ts')).toBe(false);
    expect(isLibraryPath('http://localhost:3000/_chunks/node_modules_tides_index_1f.js')).toBe(true);
    expect(isLibraryPath('src/about_node_modules_/list.ts')).toBe(false);
  });

  it('tell a release of a library by what it says of itself, and not an app’s own build', () => {
    const at = (file: string, banner: string) => hasLibraryBanner(`/files/${file}`, `${banner}\nvar x = 1;`);
    expect(at('tides.min.js', '/*!\n * Tides.js v4.6.1\n * Released under the MIT License\n */')).toBe(true);
    expect(at('tide-chart.js?v=2', '/** @license tide-chart 2.0.10 */')).toBe(true);
    expect(at('desk.js', '/*! desk v3.2.1 (c) Skerry Line, all rights reserved */')).toBe(false);
    expect(at('desk.js', '/*! tides v4.6.1 | MIT */')).toBe(false);
    expect(at('tides.js', '/* of 2.4.1 under MIT */')).toBe(false);
    expect(at('tides.js', 'f(); /*! tides v4.6.1 | MIT */')).toBe(false);
    const url = 'http://localhost:4781/tides.js';
    const recording = recordingOf([
      { kind: 'source', id: 0, url },
      { kind: 'function', id: 0, name: 'ebb', source: 0, line: 2, column: 1 },
    ]);
    const text = '/*! tides v4.6.1 | MIT */\nfunction ebb() {}';
    const rows = resolveFunctions(recording, new Map([[url, { url, text }]]));
    expect(rows.find((row) => row.kind === 'function')).toMatchObject({ owner: 'library' });
  });
});
