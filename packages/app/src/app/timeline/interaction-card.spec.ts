import type { InteractionRow } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { interactionCard } from './interaction-card';

const row = (about: Partial<InteractionRow>) =>
  ({
    label: 'Tap button “Board all”',
    startMs: 1250,
    feltMs: 888,
    measured: true,
    ...about,
  }) as InteractionRow;

describe('the card of an interaction', () => {
  it('holds what was felt against the budget', () => {
    expect(interactionCard(row({}), 200)).toEqual({
      what: 'Interaction',
      title: 'Tap button “Board all”',
      place: '',
      facts: [
        { label: 'felt', text: '888 ms, budget 200 ms', over: true },
        { label: 'began at', text: '1.25 s' },
      ],
    });
  });

  it('says of what was too short to be measured only that it was below, and never over', () => {
    const [felt, , outcome] = interactionCard(row({ measured: false, feltMs: 16, outcomeMs: 900 }), 10).facts;
    expect(felt).toMatchObject({ text: 'below 16 ms, budget 10 ms', over: false });
    expect(outcome).toMatchObject({ text: '900 ms' });
  });
});
