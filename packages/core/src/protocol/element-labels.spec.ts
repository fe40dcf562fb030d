import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { linesWithLabels, packFacts, withLabels, type ElementFacts } from './element-labels';

const labelOf = (...facts: ElementFacts) => withLabels({ target: packFacts(facts) }).target;

describe('labels of elements', () => {
  it.each<[string, ElementFacts]>([
    ['button “Board all”', ['', 'button', '', false, 'board-all', false, '']],
    ['button “Board all”', ['', 'input', 'submit', false, 'boardAll', false, '']],
    ['row in “Manifest”', ['', 'tr', '', false, 'manifest', true, '']],
    ['place in “Manifest”', ['', 'div', '', false, 'manifest', true, '']],
    ['element “Manifest”', ['', 'div', '', false, 'manifest', false, '']],
    ['search field', ['', 'input', 'search', false, undefined, false, '']],
    ['text field', ['', 'input', 'constructor', false, null, false, '']],
    ['editor “Log”', ['', 'div', '', true, 'log', false, '']],
    ['constructor “Deck”', ['constructor', 'div', '', false, 'deck', false, '']],
    ['quay-clock', ['', 'quay-clock', '', false, '', false, '']],
    ['button “Cast off”', ['', 'button', '', false, 'board-all', true, ' Cast \n off ']],
    ['page', []],
  ])('%s', (label, facts) => {
    expect(labelOf(...facts)).toBe(label);
  });

  it('stand in the midst of words, too', () => {
    const frame = packFacts(['', 'iframe', '', false, 'tides', false, '']);
    const row = { kind: 'drop', reason: `${frame} of http://localhost:4000 is not recorded`, count: 0 };
    expect(withLabels(row)).toEqual({
      ...row,
      reason: 'frame “Tides” of http://localhost:4000 is not recorded',
    });
  });

  it('leave rows as they are that hold no facts', () => {
    fc.assert(
      fc.property(fc.string(), fc.integer(), (target, count) => {
        fc.pre(!target.includes('\u0002'));
        expect(withLabels({ target, count })).toEqual({ target, count });
      }),
    );
  });

  it('hold no control characters, whatever a page calls its elements', () => {
    const words = fc.string({
      unit: fc.constantFrom('a', '-', '\u0000', '\u0001', '\u0002', '\u0003', '"', '\\'),
    });
    fc.assert(
      fc.property(words, words, words, (role, name, text) => {
        const row = { kind: 'input', target: packFacts([role, 'button', '', false, name, false, text]) };
        const lines = linesWithLabels(`${JSON.stringify(row)}\n`);
        const { target } = JSON.parse(lines) as { target: string };
        // eslint-disable-next-line no-control-regex -- there is to be none
        expect(target).not.toMatch(/[\u0000-\u001f]/);
        expect(target).toBe(withLabels(row).target);
      }),
    );
  });

  it('change nothing else of lines in JSON', () => {
    const lines =
      '{"kind":"input","target":"button"}\n{"kind":"redraw","target":"\\u0002\\u0003"}\nnot JSON \\u0002\n';
    expect(linesWithLabels(lines)).toBe(
      '{"kind":"input","target":"button"}\n{"kind":"redraw","target":"page"}\nnot JSON \\u0002\n',
    );
  });
});
