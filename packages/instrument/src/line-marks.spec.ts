import { createContext, runInContext } from 'node:vm';
import {
  LOOK,
  LOOK_AT_CALL,
  LOOKS_TAKEN,
  unpackPositions,
  withIdsFrom,
  type ScriptRegistration,
} from '@nettle-patch/core';
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

const bending = (head: string, body: string) => `
    const STATIONS = 45;
    const stations = 45;
    function bendingOf(pair) {
      let sum = 0;
      for (${head}) {
        const arm = (at / STATIONS - 0.5) * pair.length;
        ${body}
        sum += Math.sqrt(arm * arm + pair.width * pair.width) * pair.weight;
      }
      return Math.round(sum);
    }
    result = [bendingOf({ length: 60, width: 12, weight: 3, turns: 4 }), String(bendingOf)];`;

it.each([
  ['let at = 0; at < 45; at++', ''],
  ['let at = 44; at >= 0; at -= 2', ''],
  ['let at = 0, end = 3; at <= STATIONS; at += 1', 'let arms = arm + Math.abs(arm);'],
])('passes over a loop that ends soon (%s), and tells its lines behind it', async (head, body) => {
  const script = bending(head, body);
  const { code } = rewrite(script);
  const looks = code.match(new RegExp(`${LOOK}\\(`, 'g'))!;
  expect(looks).toHaveLength(1);
  const run = await runScript(code);
  expect(run.result).toBe((await runScript(script)).result);
  const { functions, positions } = JSON.parse(run.registered[0]!) as ScriptRegistration;
  const lines = [...run.seen].map((id) => unpackPositions(positions!)[id - 1000 - functions.length]?.line);
  expect(lines.some((line) => line !== undefined && line >= 7 && line <= 9)).toBe(true);
});

it.each([
  ['let at = 0; at < 45e4; at++', '', 'takes many turns'],
  ['let at = 0; at < pair.turns; at++', '', 'takes as many turns as is known later'],
  ['let at = 0; at < stations; at++', '', 'takes as many turns as a name says that could mean another'],
  ['let at = 0; at < 45; at *= 2', '', 'may never end'],
  ['let at = 0; at < 45; at--', '', 'goes the other way'],
  ['let at = 1; at << 45; at++', '', 'ends by something else than a comparison'],
  ['let at = 0; at < 45; at += pair.turns', '', 'goes on by what is known later'],
  ['let at = 0; at < 45; at++', 'at -= pair.turns;', 'changes its counter'],
  ['let at = 0; at < 45; at++', '[at] = [at + 1];', 'changes its counter by a pattern'],
  ['let at = 0; at < 45; at++', 'pair.load(at);', 'calls'],
  ['let at = 0; at < 45; at++', 'if (arm > 9) break;', 'branches'],
  ['let at = 0; at < 45; at++', 'pair.arms = () => arm;', 'keeps what a turn has'],
])('looks at each turn of a loop (%s) { %s } that %s', (head, body) => {
  const { code } = rewrite(bending(head, body));
  expect(code).toMatch(new RegExp(`\\{${LOOKS_TAKEN}&&\\(__np_a\\[\\d+\\]-=\\d+\\)<0&&${LOOK}\\(\\);`));
});

it('can be given other ids afterwards', () => {
  const scripts = [text, bending('let at = 0; at < 45; at++', '')]
    .join('\n')
    .replace('result = s', 'result = 0; s');
  const make = (firstId: number) => rewrite(scripts, firstId).code;
  expect(withIdsFrom(make(1000), 1000, 2 ** 20 + 77)).toBe(make(2 ** 20 + 77));
  expect(withIdsFrom(make(2 ** 20 - 3), 2 ** 20 - 3, 5)).toBe(make(5));
});

it('does nothing where there is no recorder', () => {
  const { code } = rewrite(text);
  const world = createContext({ result: 0 });
  runInContext(code, world);
  expect(world['result']).toBe(9);
});
