import { JSDOM } from 'jsdom';
import { describe, expect, it } from 'vitest';
import { textOfTable } from './table-text';

describe('a table as text', () => {
  it('has tabs between cells, a line for each row, and none within a cell', () => {
    const { document } = new JSDOM(
      `<table><thead><tr><th>function</th><th>self ms</th></tr></thead>
       <tbody><tr><th>bendingOfPair
         <span>deck/trim.ts:24</span></th><td>697.0</td></tr></tbody></table>`,
    ).window;
    expect(textOfTable(document.querySelector('table')!)).toBe(
      'function\tself ms\nbendingOfPair deck/trim.ts:24\t697.0\n',
    );
  });
});
