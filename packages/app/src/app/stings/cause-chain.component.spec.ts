import type { CauseLink } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { shown } from '../../testing/shown';
import { CauseChainComponent } from './cause-chain.component';

const CAUSE: CauseLink[] = [
  { type: 'input', label: 'Tap button “Roster”', startMs: 1000 },
  { type: 'handler', startMs: 1002, durationMs: 4, entry: 'Listener', functionId: 5 },
  { type: 'schedule', startMs: 1004, what: 'request', delayMs: undefined, url: '/api/roster', functionId: 5 },
  { type: 'handler', startMs: 3000, durationMs: 300, entry: 'Promise callback', functionId: undefined },
];
const functions = new Map([
  [5, { name: 'onRoster', place: 'src/desk/crew/roster.ts:14', owner: 'own' as const }],
]);

describe('how it came to run', () => {
  it('goes from what a person did, through what was asked for, to what ran, each with when', async () => {
    const { component, element, texts } = await shown(CauseChainComponent, {
      cause: CAUSE,
      functions,
      startMs: 3000,
    });
    expect(texts('li')).toEqual([
      'Tap button “Roster”2.00 s before',
      'onRoster2.00 s before',
      'asked for the answer to api/roster2.00 s before',
      'Promise callbackat its beginning',
    ]);
    const chosen: number[] = [];
    component.choose.subscribe((id) => chosen.push(id));
    const button = element.querySelector('button')!;
    button.click();
    expect([chosen, button.title]).toEqual([[5], 'crew/roster.ts:14']);
  });

  it('says nothing where only one thing is known', async () => {
    const { texts } = await shown(CauseChainComponent, { cause: CAUSE.slice(0, 1), functions, startMs: 0 });
    expect(texts('h3, li')).toEqual([]);
  });
});
