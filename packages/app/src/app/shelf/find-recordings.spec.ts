import { describe, expect, it } from 'vitest';
import { storedRecording } from '../../testing/stored-recording';
import { findRecordings, tagsOf, type Order } from './find-recordings';

const verdict = (worstMs: number) => ({ stings: 1, worstMs, blind: false, skyline: [] });
const ALL = [
  storedRecording('Sailing 10', {
    createdAt: '2026-11-22T08:00:00.000Z',
    verdict: verdict(90),
    tags: ['quay'],
  }),
  storedRecording('Sailing 9', {
    createdAt: '2026-11-24T08:00:00.000Z',
    bytes: 99,
    tags: ['quay', 'release 4'],
  }),
  storedRecording('Deck', { createdAt: '2026-11-23T08:00:00.000Z', verdict: verdict(700), device: 'phone' }),
];
const ids = (text: string, order: Order = 'newest', tag?: string) =>
  findRecordings(ALL, { text, order, tag }).map(({ id }) => id);

describe('recordings of the shelf', () => {
  it.each([
    ['newest', ['Sailing 9', 'Deck', 'Sailing 10']],
    ['oldest', ['Sailing 10', 'Deck', 'Sailing 9']],
    ['worst', ['Deck', 'Sailing 10', 'Sailing 9']],
    ['title', ['Deck', 'Sailing 9', 'Sailing 10']],
    ['largest', ['Sailing 9', 'Sailing 10', 'Deck']],
  ] as const)('are put in order: %s', (order, wanted) => {
    expect(ids('', order)).toEqual(wanted);
  });

  it('are found by all words of what is typed, in title, target, device and tags', () => {
    expect(ids('SAIL release')).toEqual(['Sailing 9']);
    expect(ids('phone boarding')).toEqual(['Deck']);
    expect(ids('no such')).toEqual([]);
    expect(ids('', 'newest', 'quay')).toEqual(['Sailing 9', 'Sailing 10']);
  });

  it('tell their tags, the commonest first', () => {
    expect(tagsOf(ALL)).toEqual([
      { tag: 'quay', count: 2 },
      { tag: 'release 4', count: 1 },
    ]);
  });
});
