import { readRecording } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { namedFunction } from './named-function';

const HEADER = {
  kind: 'header',
  format: 'nettle-patch',
  version: '1.1',
  id: 'deckhand',
  startedAt: '2026-11-20T12:40:00.000Z',
  title: 'Deckhand',
  mode: 'everyday',
  clockStepMs: 0.001,
  refreshMs: 16,
  target: { title: 'Deckhand', url: 'app://deckhand', engine: 'Deckhand 3', device: 'phone' },
  available: [],
  missing: [],
};
const place = { originalName: 'sync', originalFile: 'app/manifest.ts', originalLine: 27, originalColumn: 3 };

/** The function with id 0 of a recording with these rows. */
function named(...rows: object[]) {
  const text = [HEADER, ...rows].map((row) => `${JSON.stringify(row)}\n`).join('');
  return namedFunction(readRecording([new TextEncoder().encode(text)]).recording, 0);
}

describe('a function by its name and place', () => {
  it('can be looked at closer where it stands in a script, by its original place', () => {
    const script = { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' };
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
