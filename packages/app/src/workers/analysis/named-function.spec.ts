import type { Row } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { recordingOf } from '../../../../core/src/testing/arbitrary-recording';
import { namedFunction } from './named-function';

const place = { originalName: 'sync', originalFile: 'app/manifest.ts', originalLine: 27, originalColumn: 3 };

/** The function with id 0 of a recording with these rows. */
const named = (...rows: Row[]) => namedFunction(recordingOf(rows), 0);

describe('a function by its name and place', () => {
  it('can be looked at closer where it stands in a script, by its original place', () => {
    const script: Row = { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' };
    expect(named(script, { kind: 'function', id: 0, name: 's', source: 0, ...place })).toMatchObject({
      name: 'sync',
      start: 'app/manifest.ts:27:3',
    });
    expect(named(script, { kind: 'function', id: 0, name: 's', source: 0, line: 4, column: 9 }).start).toBe(
      'desk.js:4:9',
    );
  });

  it('cannot where it is no script that runs in a page', () => {
    expect(named({ kind: 'function', id: 0, name: 'sync', ...place })).toMatchObject({
      name: 'sync',
      place: 'app/manifest.ts:27',
    });
    expect(named({ kind: 'function', id: 0, name: 'sync', ...place })).not.toHaveProperty('start');
  });
});
