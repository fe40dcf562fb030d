import { expect, it } from 'vitest';
import { toWrite, writeWords } from './write-words';

it('says of properties and attributes that they were written, and of functions that they were called', () => {
  const written = [
    'style',
    'class',
    'text',
    'children',
    'aria-hidden',
    'innerHTML',
    'textContent',
    'viewBox',
  ];
  for (const name of written) expect(writeWords(name)).toBe(`${name} had been written`);
  expect([toWrite('style'), toWrite('append')]).toEqual(['write style', 'call append']);
  const called = [
    'appendChild',
    'setAttribute',
    'insertRule',
    'remove',
    'replaceChildren',
    'before',
    'toggleAttribute',
  ];
  for (const name of called) expect(writeWords(name)).toBe(`${name} had been called`);
});
