import type { Suggestion } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { shown } from '../../testing/shown';
import { SuggestionsComponent } from './suggestions.component';

const SUGGESTION: Suggestion = {
  kind: 'read-before-write',
  advice: [
    { type: 'text', text: 'Read all places before writing any in ' },
    { type: 'function', text: 'makeRoom', functionId: 3 },
  ],
  evidence: [
    { type: 'function', text: 'makeRoom', functionId: 3 },
    { type: 'text', text: ' forced layout 40 times' },
  ],
  functionId: 3,
  range: { startMs: 0, endMs: 90 },
  savesMs: 80,
};
const functions = new Map([
  [3, { name: 'makeRoom', place: 'src/desk/deck/drag.ts:10', owner: 'own' as const }],
]);

describe('what could be done', () => {
  it('says what to do, what was seen, and leads to each function once', async () => {
    const inputs = { suggestions: [SUGGESTION], functions, recordingId: 'friday' };
    const { component, element, texts } = await shown(SuggestionsComponent, inputs);
    expect(texts('li p')).toEqual([
      'Read all places before writing any in makeRoom',
      'makeRoom forced layout 40 timesdeck/drag.ts:10',
    ]);
    expect(element.querySelector('a')!.getAttribute('href')).toBe('/source/friday?function=3');
    const chosen: number[] = [];
    component.choose.subscribe((id) => chosen.push(id));
    element.querySelector('button')!.click();
    expect(chosen).toEqual([3]);
  });

  it('is nothing where nothing speaks for anything', async () => {
    const { texts } = await shown(SuggestionsComponent, {
      suggestions: [],
      functions,
      recordingId: 'friday',
    });
    expect(texts('h3')).toEqual([]);
  });
});
