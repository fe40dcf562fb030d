import { describe, expect, it } from 'vitest';
import { InteractionNumbers } from './interaction-numbers';

const numbersOf = (...types: string[]) => {
  const numbers = new InteractionNumbers();
  return types.map((type) => numbers.of(type));
};

describe('numbers of interactions', () => {
  it('are shared by the events of one press', () => {
    expect(numbersOf('pointerdown', 'pointerup', 'click', 'pointerdown', 'click')).toEqual([1, 1, 1, 2, 2]);
    expect(numbersOf('keydown', 'input', 'keyup', 'keydown', 'input')).toEqual([1, 1, 1, 2, 2]);
  });

  it('give a value that changes to what began last: a checkbox that is tapped after typing is tapped', () => {
    expect(numbersOf('keydown', 'input', 'keyup', 'pointerdown', 'pointerup', 'click', 'input')).toEqual([
      1, 1, 1, 2, 2, 2, 2,
    ]);
  });

  it('keep a touch that became a scroll apart from the next tap', () => {
    expect(numbersOf('pointerdown', 'pointercancel', 'pointerdown', 'click')).toEqual([1, 1, 2, 2]);
  });
});
