import { unpackPositions, type ScriptRegistration } from '@nettle-patch/core';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { rewriteScript } from './rewrite-script';
import { runScript } from './testing/run';

/** Statements with calls on lines of their own; `here` is called with the line that it stands on. */
const PARTS: Readonly<Record<string, string>> = {
  'properties of an object': `
    return {
      name: here('4', 1),
      lane: { at: here('5', 2) + here('5', 3) },
      deck: here('6', 4),
    };`,
  'arguments, and then the call itself': `
    return here('3', kept(
      here('4', 1),
      here('5', 2),
    ));`,
  'a call whose last argument calls': `
    return [
      kept(
        here('5', 1),
      ),
      here('7', kept(
        here('8', 2),
        [here('9', 3)],
      )),
    ];`,
  'a method without arguments, down a chain': `
    return deck
      .load(here('4', 1))
      .balance()
      .length(here('6', 2));`,
  'calls without arguments': `
    return [
      five(),
      deck.turn(),
      deck?.lower(),
      new Lane(),
      -rise(),
      new Deck,
    ];`,
  'what is decided': `
    return here('3', 1) > 0
      ? here('4', 2)
      : here('5', 3);`,
  'what is decided, before another call': `
    return kept(
      here('4', 0) ? here('4', 2) :
        here('5', 3), here('5', 4),
      here('6', 5));`,
  'what is called where it is needed': `
    return here('3', 0) ||
      (here('4', null) ??
        here('5', 0)) ||
      here('6', 7);`,
  'a template': `
    return \`\${here('3', 1)}
      \${here('4', 2)} and \${
        here('5', 3)
      }\`;`,
  'what is spread': `
    return [...kept(
      here('4', [1]),
    ), ...kept(
      ...here('6', [[2]]),
    )];`,
  'functions, of which each has lines of its own': `
    return kept(() => {
      return here('4', 1);
    })().toFixed(
      here('6', 2));`,
  variables: `
    const one = here('3', 1),
      two = kept(
        here('5', 2),
      ) + here('6', 3);
    return one + two;`,
  assignments: `
    deck.weight = kept(
      here('4', 1),
    ); deck.height = here('5', 2);
    return deck.weight + here('6', 1);`,
};

const PARTS_WORLD = `
    const kept = (value) => (Array.isArray(value) ? [...value] : value);
    const five = () => above('4', 5);
    const rise = () => above('8', 5);
    class Lane { constructor() { above('7', 1); this.at = [1].map(String); } }
    class Deck { constructor() { above('9', 1); this.at = [1].map(String); } }
    const deck = {
      weight: 0,
      load(by) { this.weight += [by].length; return this; },
      balance() { above('5', 1); return this; },
      turn() { above('5', 1); return this; },
      lower() { return above('6', 1); },
      length(by) { return this.weight + [by].length; },
    };`;

/** Runs a script as it is and rewritten. @returns by the name of each call of `here` or `above`: the line that was told */
async function linesTold(script: string): Promise<Map<string, number | undefined>> {
  const plain = await runScript(script);
  const { code } = rewriteScript(script, { url: '/desk.js', firstId: 1000, isModule: false, mode: 'fine' });
  const { registered, heres, result, open, tooMany } = await runScript(code);
  expect([result, open, tooMany], code).toEqual([plain.result, 0, 0]);
  const { functions, positions } = JSON.parse(registered[0]!) as ScriptRegistration;
  const places = unpackPositions(positions!);
  const lines = [...functions.map(([, , line]) => line), ...places.map(({ line }) => line)];
  return new Map([...heres].map(([name, id]) => [name, lines[id - 1000]]));
}

it.each(Object.entries(PARTS))('tells the lines of %s', async (_name, body) => {
  const told = await linesTold(`function parts() {\n${body}\n}${PARTS_WORLD}\nresult = parts();`);
  expect(told.size).toBeGreaterThan(1);
  for (const [name, line] of told) expect([name, line]).toEqual([name, Number(name)]);
});

/** A text that grows, and knows on which line it ends and how many calls it has. */
interface Writing {
  text: string;
  line: number;
  calls: number;
}
type Write = (into: Writing) => void;

const put =
  (...parts: readonly (string | Write)[]): Write =>
  (into) => {
    for (const part of parts) {
      if (typeof part !== 'string') part(into);
      else {
        into.text += part;
        into.line += part.split('\n').length - 1;
      }
    }
  };

/** Expressions in which calls stand on lines of their own, or do not; each call has its line as its name. */
const expressions = fc.letrec<{ one: Write }>((tie) => {
  const one = tie('one');
  const gap = fc.constantFrom('', '\n', ' ', '\n\n');
  const here = fc.tuple(gap, one).map(([space, value]): Write => (into) => {
    put(space)(into);
    put(`here('${into.line} ${into.calls++}',`, value, ')')(into);
  });
  const shapes = (a: Write, b: Write, space: string): Write[] => [
    put('{ a: ', a, `,${space} b: `, b, ' }.b'),
    put('[', a, `,${space}`, b, ']'),
    put('(', a, ` ?${space}`, b, ' : ', a, ')'),
    put('(', a, ' ?? ', b, ')'),
    put('(', a, `, ${space}`, b, ')'),
    put('kept(', a, `,${space}`, b, ')'),
    put('deck', `${space}.load(`, a, ').turn()', `${space}?.load(`, b, ')'),
    put('deck.weight =', a),
    put('(deck[', a, `] ${space}??= `, b, ')'),
    put(`deck${space}?.[`, a, `]${space}?.at(`, b, ')'),
    put('`${', a, '}-${', b, '}`'),
    put('[...[', a, `]${space}.concat(`, b, ')]'),
    put('new Lane(', a, ').at'),
    put('(await ', a, ')'),
    put('deck[', a, `]?.(`, b, ')'),
    put('[await (async () => ', a, ')(),', b, ']'),
  ];
  return {
    one: fc.oneof(
      { maxDepth: 4, depthIdentifier: 'expressions' },
      fc.constantFrom('0', '1', 'null', '"a"').map((text) => put(text)),
      here,
      fc
        .tuple(one, one, gap, fc.nat({ max: 15 }))
        .map(([a, b, space, at]) => put('(', shapes(a, b, space)[at]!, ')')),
    ),
  };
}).one;

it('tells of each call the line that it stands on, whatever it stands in', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(expressions, { minLength: 1, maxLength: 3 }), async (statements) => {
      const into: Writing = { text: '', line: 1, calls: 0 };
      put('async function parts() { const all = [];\n')(into);
      for (const statement of statements) put('all.push(', statement, '); ')(into);
      put(`return all; }${PARTS_WORLD}\nresult = parts().then(String, (error) => error.name);`)(into);
      for (const [name, line] of await linesTold(into.text)) {
        const [known, number] = name.split(' ');
        if (number !== undefined) expect(line, `${name} in ${into.text}`).toBe(Number(known));
      }
    }),
    { numRuns: 200 },
  );
});
