import { CALL_END, FIRST_EXACT_FUNCTION, type ScriptRegistration } from '@nettle-patch/core';
import { expect, it } from 'vitest';
import { callerEvent } from '../exact/call-event-buffer';
import { closerCalls } from './closer-calls';

const FIRST = FIRST_EXACT_FUNCTION + 40;
const [BOARD, TRIM, PAIR, TRIM_TWICE] = [FIRST + 1, FIRST + 2, FIRST + 3, FIRST + 4];
const LINE_IN_BOARD = FIRST + 9;
const SCRIPT: ScriptRegistration = {
  url: '/desk.js',
  files: ['desk.js', 'src/trim.ts'],
  functions: [
    ['desk.js', 0, 1, 1, 0],
    ['onBoardAll', 0, 4, 1, 0],
    ['computeTrim', 1, 29, 3, 0],
    ['bendingOfPair', 1, 40, 1, 0],
    ['anonymous', 1, 29, 60, 0],
  ],
};

/** Calls that are entered and left as rewritten scripts do, with the function at a place looked at closer. */
function looking(place: string) {
  let nowMs = 0;
  const events: number[] = [];
  const ring = {
    now: () => ++nowMs,
    enterAt: (id: number) => events.push(id),
    leaveAt: () => events.push(CALL_END),
  };
  const calls = new Int32Array(600);
  const sampler = {
    calls,
    enter: (id: number) => ((calls[++calls[0]!] = id), calls[0]!),
    leaveWaiting: (): 0 => (calls[0]!--, 0),
    unwind: () => void (calls[0] = 0),
  };
  const closer = closerCalls(sampler, ring as never, place);
  const told = JSON.parse(closer.register(FIRST, JSON.stringify(SCRIPT))) as ScriptRegistration;
  const call = (id: number, within: () => void = () => undefined) => {
    sampler.enter(id);
    within();
    sampler.leaveWaiting();
  };
  return { sampler, calls, events, call, told };
}

it('records a function and all it calls, within those that had called it, by where they stood', () => {
  const { call, calls, events, told } = looking('src/trim.ts:29');
  call(BOARD, () => {
    calls[1] = LINE_IN_BOARD;
    call(PAIR);
    call(TRIM, () => call(PAIR));
    call(PAIR);
  });
  call(PAIR);
  expect(events).toEqual([callerEvent(LINE_IN_BOARD), TRIM, PAIR, CALL_END, CALL_END, CALL_END]);
  expect(told).toMatchObject({ closer: 2, lookedFor: 'src/trim.ts:29' });
});

it('a call of the function within itself is part of the call around it', () => {
  const { call, events } = looking('src/trim.ts:29');
  call(TRIM, () => call(TRIM));
  expect(events).toEqual([TRIM, TRIM, CALL_END, CALL_END]);
});

it('of several functions on a line it is the one with the nearest column', () => {
  expect(looking('src/trim.ts:29:55').told.closer).toBe(4);
  const { call, events } = looking('src/trim.ts:29:55');
  call(TRIM_TWICE);
  call(TRIM);
  expect(events).toEqual([TRIM_TWICE, CALL_END]);
});

it('records nothing where the function is not among those of the script, and says what was looked for', () => {
  for (const place of ['src/trim.ts:7', 'trim', 'C:\\trim.ts:29']) {
    const { call, events, told } = looking(place);
    call(BOARD, () => call(TRIM));
    expect(events).toEqual([]);
    expect(told).toMatchObject({ lookedFor: place });
    expect(told.closer).toBeUndefined();
  }
});

it('begins anew after a script that failed', () => {
  const { sampler, call, events } = looking('src/trim.ts:29');
  sampler.enter(BOARD);
  sampler.enter(TRIM);
  sampler.unwind();
  events.length = 0;
  call(PAIR);
  call(TRIM);
  expect(events).toEqual([TRIM, CALL_END]);
});
