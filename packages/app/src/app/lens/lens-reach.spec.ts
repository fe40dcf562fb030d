import { describe, expect, it } from 'vitest';
import { lensReach } from './lens-reach';

describe('what a view does with the lens', () => {
  it('is told by the view and how it shows things', () => {
    expect(lensReach('calls', 'flame').parts.has('foldRecursion')).toBe(true);
    expect(lensReach('stings', undefined).parts.has('foldLibraries')).toBe(false);
    expect(lensReach('timeline', undefined).parts.has('foldRecursion')).toBe(false);
    expect(lensReach('timeline', 'ladder').parts.has('focus')).toBe(false);
    expect(lensReach('source', undefined).parts.has('text')).toBe(false);
  });

  it('says nothing of libraries where they are not folded', () => {
    for (const [view, show] of [
      ['stings', undefined],
      ['timeline', undefined],
      ['timeline', 'ladder'],
      ['timeline', 'table'],
    ] as const) {
      expect(lensReach(view, show).usual).not.toContain('libraries folded');
    }
  });

  it('always holds the range', () => {
    for (const view of ['stings', 'timeline', 'calls', 'source']) {
      expect(lensReach(view, undefined).parts.has('range')).toBe(true);
    }
  });
});
