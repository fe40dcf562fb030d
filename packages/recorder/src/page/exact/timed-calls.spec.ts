import {
  CALL_END,
  FIRST_EXACT_FUNCTION,
  JUDGED_AGAIN_BY,
  JUDGED_BY,
  ONE_OF_MANY,
  TIMED_EVERY,
} from '@nettle-patch/core';
import { expect, it } from 'vitest';
import type { AboutThread } from '../capture-registry';
import { RecordingSession } from '../session';
import { createTimedCalls } from './timed-calls';

const STEP = FIRST_EXACT_FUNCTION + 7;
const WHOLE = FIRST_EXACT_FUNCTION + 8;

/** Times calls by a clock that is set by hand. */
function timing() {
  let nowMs = 0;
  const events: [id: number, ms: number][] = [];
  const open = new Int32Array(4);
  const ring = {
    now: () => nowMs,
    open,
    enterAt: (id: number, ms: number) => (open[0]!++, events.push([id, ms])),
    leaveAt: (ms: number) => (open[0]!--, events.push([CALL_END, ms])),
  };
  const told: AboutThread[] = [];
  const calls = createTimedCalls(ring as never, (_session, about) => told.push(about));
  calls.start(new RecordingSession('tides', 0, false));
  const call = (id: number, ms: number, within: () => void = () => undefined) => {
    calls.enter(id);
    within();
    nowMs += ms;
    calls.leave();
  };
  const counted = () =>
    told.map((about) => about.type === 'counts' && [about.sinceMs, [...about.ids], [...about.counts]]);
  return { calls, call, events, open, counted, pass: (ms: number) => (nowMs += ms) };
}
const begun = (events: readonly (readonly [number, number])[], id: number) =>
  events.filter(([one]) => one === id).length;

it('times every call of a function that is not quick', () => {
  const { calls, call, events, counted } = timing();
  for (let at = 0; at < 3 * JUDGED_BY; at++) call(WHOLE, 1);
  void calls.stop();
  expect(begun(events, WHOLE)).toBe(3 * JUDGED_BY);
  expect(counted()).toEqual([]);
});

it('times one of many calls of a function once it is known to be quick, and counts all of them', () => {
  const { calls, call, events, counted, pass } = timing();
  pass(5);
  call(WHOLE, 1, () => {
    for (let at = 0; at < 10_000; at++) call(STEP, 0);
  });
  pass(1000);
  void calls.collect!();
  call(STEP, 0);
  void calls.stop();
  expect(begun(events, STEP)).toBe(JUDGED_BY);
  expect(begun(events, STEP + ONE_OF_MANY)).toBe(Math.floor(10_000 / TIMED_EVERY) - JUDGED_BY / TIMED_EVERY);
  expect(begun(events, WHOLE)).toBe(1);
  expect(counted()).toEqual([
    [0, [STEP], [10_000]],
    [1006, [STEP], [1]],
  ]);
});

it('times a function again that was quick and is no longer', () => {
  const { calls, call, events } = timing();
  for (let at = 0; at < JUDGED_BY; at++) call(STEP, 0);
  for (let at = 0; at < JUDGED_AGAIN_BY * TIMED_EVERY; at++) call(STEP, 1);
  const before = begun(events, STEP);
  expect(before).toBe(JUDGED_BY);
  call(STEP, 1);
  void calls.stop();
  expect(begun(events, STEP)).toBe(before + 1);
});

it('matches ends to beginnings after the ring has ended what a failing script left open', () => {
  const { calls, call, events, open } = timing();
  calls.enter(WHOLE);
  calls.enter(STEP);
  open[0] = 0;
  call(WHOLE, 2);
  calls.leave();
  void calls.stop();
  expect(events).toEqual([
    [WHOLE, 0],
    [STEP, 0],
    [WHOLE, 0],
    [CALL_END, 2],
  ]);
});

it('does nothing unless it was started', () => {
  const { calls, call, events } = timing();
  void calls.stop();
  call(STEP, 1);
  expect(events).toEqual([]);
});
