import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { NettleDatabase } from './database';
import { USUAL_PREFERENCES, editorTemplateProblem, preferencesSchema, readPreferences } from './preferences';

describe('what a person has set', () => {
  it('is as usual until something is set', () => {
    expect(readPreferences(undefined)).toEqual(USUAL_PREFERENCES);
    expect(USUAL_PREFERENCES).toMatchObject({ theme: 'system', editorTemplate: '', saveTexts: true });
  });

  it('is read as it was kept, and what makes no sense any more as usual', () => {
    const read = readPreferences({
      theme: 'dark',
      editorTemplate: 'javascript:alert({file})',
      ownPaths: ['src/**'],
      thresholds: { responseMs: -4 },
      lanes: { order: ['memory'], hidden: [], folded: [] },
    });
    expect(read).toMatchObject({ theme: 'dark', editorTemplate: '', ownPaths: ['src/**'] });
    expect(read.thresholds).toEqual(USUAL_PREFERENCES.thresholds);
    expect(read.lanes.order).toEqual(['memory']);
  });

  it.each([['javascript:{file}'], ['data:text/html,{file}'], ['{file}'], ['editor://open']])(
    'refuses %s as a link to an editor and says why',
    (template) => {
      expect(editorTemplateProblem(template)).toMatch(/\.$/);
      expect(() =>
        preferencesSchema.validateSync({ ...USUAL_PREFERENCES, editorTemplate: template }),
      ).toThrow();
    },
  );

  it('is kept beside recordings of a database that was there before', async () => {
    const name = `test ${crypto.randomUUID()}`;
    const old = new NettleDatabase(name);
    await old.open();
    await old.preferences.put({ name: 'preferences', value: { theme: 'light' } });
    old.close();
    const again = new NettleDatabase(name);
    expect(readPreferences((await again.preferences.get('preferences'))?.value).theme).toBe('light');
  });
});
