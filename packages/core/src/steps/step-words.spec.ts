import { KEYS } from './keys';
import type { Step } from './steps';
import { describe, expect, it } from 'vitest';
import { stepWords } from './step-words';

describe('a step in words', () => {
  it.each<[Step, string, string]>([
    [{ do: 'click', on: '#board-all' }, 'click', '#board-all'],
    [{ do: 'double-click', on: 'li' }, 'double click', 'li'],
    [{ do: 'wait-for', on: '.ready' }, 'wait for', '.ready'],
    [{ do: 'type', text: 'hak' }, 'type', 'hak'],
    [{ do: 'type', length: 4 }, 'type', '4 letters that stand in'],
    [{ do: 'type', length: 1 }, 'type', '1 letter that stands in'],
    [
      { do: 'key', key: Object.keys(KEYS)[0]!, with: ['Control', 'Shift'] },
      'press',
      'Control + Shift + Backspace',
    ],
    [{ do: 'choose', on: 'select', index: 2 }, 'choose', 'option 3 of select'],
    [{ do: 'drag', on: '.vehicle', by: { x: 40, y: -8 } }, 'drag', '.vehicle by 40, -8 px'],
    [{ do: 'scroll', by: { x: 0, y: 300 } }, 'scroll', 'the page by 0, 300 px'],
    [{ do: 'wait', ms: 1200 }, 'wait', '1.20 s'],
    [{ do: 'navigate', url: '/tides' }, 'open', '/tides'],
  ])('%j', (step, deed, what) => {
    expect(stepWords(step)).toEqual({ deed, what });
  });
});
