import { describe, expect, it } from 'vitest';
import type { BecausePart } from '@nettle-patch/core';
import { shown } from '../../testing/shown';
import { BecauseComponent } from './because.component';

const PARTS: BecausePart[] = [
  { type: 'text', text: 'It ' },
  { type: 'phase', phase: 'waiting', text: 'waited' },
  { type: 'text', text: ' ' },
  { type: 'figure', text: '300 ms', over: true },
  { type: 'text', text: ' behind ' },
  { type: 'function', functionId: 4, text: '<b>pollDepartures</b>' },
];

describe('the sentence', () => {
  it('is shown as it is written, and each function in it can be chosen', async () => {
    const functions = new Map([[4, { name: 'pollDepartures', place: 'poll.ts:9', owner: 'library' }]]);
    const { component, element, texts } = await shown(BecauseComponent, { parts: PARTS, functions });
    expect(texts('p')).toEqual(['It waited 300 ms behind <b>pollDepartures</b>']);
    expect(texts('.figure.over')).toEqual(['300 ms']);
    const chosen: number[] = [];
    component.choose.subscribe((id) => chosen.push(id));
    const button = element.querySelector('button')!;
    button.click();
    expect(chosen).toEqual([4]);
    expect([button.title, button.className]).toEqual(['poll.ts:9', 'name-button library']);
  });
});
