import { createContext, runInContext } from 'node:vm';
import { LOOK_AT_CALL, unpackPositions, withIdsFrom, type ScriptRegistration } from '@nettle-patch/core';
import { expect, it } from 'vitest';
import { rewriteScript } from './rewrite-script';
import { runScript } from './testing/run';

const rewrite = (text: string, firstId = 1000) =>
  rewriteScript(text, { url: '/desk.js', firstId, isModule: false, mode: 'fine' });

const text = `
    const fold = (name) => name.length + 1;
    function search(names) {
      let sum = 0;
      for (const name of names) {
        sum += fold(name);
        sum += names.indexOf(name);
      }
      return sum;
    }
    result = search(['a', 'b', 'c']) + search([]);`;

it('counts each call, those of functions too small to be recorded included', async () => {
  const { counts, registered } = await runScript(rewrite(text).code);
  const { functions } = JSON.parse(registered[0]!) as ScriptRegistration;
  const called = functions.map(([name], at) => [name, counts.get(1000 + at) ?? 0]);
  expect(called).toEqual([
    ['desk.js', 1],
    ['fold', 3],
    ['search', 2],
  ]);
});

it('tells which lines run, by positions that are registered', async () => {
  const { code, idCount } = rewrite(text);
  const { registered, seen } = await runScript(code);
  const { functions, positions } = JSON.parse(registered[0]!) as ScriptRegistration;
  const unpacked = unpackPositions(positions!);
  expect(idCount).toBe(functions.length + unpacked.length);
  const at = (id: number) => unpacked[id - 1000 - functions.length];
  const lines = [...seen].map((id) => at(id)).filter((position) => position !== undefined);
  expect(lines.map(({ functionIndex }) => functions[functionIndex]![0])).toContain('search');
  expect(lines.map(({ line }) => line)).toEqual(expect.arrayContaining([6, 7]));
  expect(unpacked.map(({ line }) => line)).toEqual(expect.arrayContaining([5, 6, 7, 11]));
});

it.each([
  ['this.balance();', false, 'a method of its own, which is looked at as it is entered'],
  ['this.deck.balance();', false, 'a method by the name of its own'],
  ['new Deck(5);', false, 'a class of its own'],
  ['this.deck.lower();', true, 'a method that it has not got'],
  ['new Crane(5);', true, 'a class that it has not got'],
  ['this.vehicles.sort();', true, 'a method of the engine, though it has one of that name'],
  ['this.lane.querySelector("tr");', true, 'a method of the page, though it has one of that name'],
  ['this[name](5);', true, 'a method by a name that is made'],
  ['this.hang(5);', true, 'a function that has rules of its own, and is not looked at'],
])('looks at %s: %s, %s', (statement, isLookedAt) => {
  const script = `
    class Deck {
      load(name) {
        ${statement}
      }
      balance() { for (const vehicle of this.vehicles) this.moment += vehicle.weight * vehicle.arm; }
      sort() { for (const vehicle of this.vehicles) vehicle.sorted = vehicle.weight > 1500; }
      querySelector() { for (const vehicle of this.vehicles) vehicle.sorted = vehicle.weight > 1500; }
    }
    const crane = { hang: function (weight) { 'use asm'; weight = weight | 0; return weight | 0; } };`;
  const { code } = rewrite(script);
  const line = code.split('\n').find((text) => text.includes(statement))!;
  expect(line.includes(`${LOOK_AT_CALL}(`)).toBe(isLookedAt);
});

it('can be given other ids afterwards', () => {
  const make = (firstId: number) => rewrite(text, firstId).code;
  expect(withIdsFrom(make(1000), 1000, 2 ** 20 + 77)).toBe(make(2 ** 20 + 77));
  expect(withIdsFrom(make(2 ** 20 - 3), 2 ** 20 - 3, 5)).toBe(make(5));
});

it('does nothing where there is no recorder', () => {
  const { code } = rewrite(text);
  const world = createContext({ result: 0 });
  runInContext(code, world);
  expect(world['result']).toBe(9);
});
