import { beforeEach, expect, it, vi } from 'vitest';
import type { RenderedFrame } from '../page/layout/render-probe';
import { NextTask } from '../page/next-task';
import type { Lent } from '../page/capture-registry';
import { RecordingSession } from '../page/session';
import { markInternal } from '../page/wrap/internal';
import { inputListeners } from './input-listeners';

const page = vi.hoisted(() => ({
  nowMs: 0,
  frames: [] as (() => void)[],
  listeners: new Map<string, (event: object) => void>(),
}));

vi.mock('../page/natives', async (actual) => ({
  ...(await actual<object>()),
  now: () => page.nowMs,
  requestAnimationFrame: (callback: () => void) => page.frames.push(callback),
  listen: (_on: unknown, type: string, listener: (event: object) => void) =>
    page.listeners.set(type, listener),
  stopListening: () => undefined,
}));

let rendered: (frame: RenderedFrame) => void;
const probe = {
  onRendered: (listener: (frame: RenderedFrame) => void) => (rendered = listener),
  arm: () => undefined,
};
const lent = {
  probe,
  elementLabel: () => 'button “Work”',
  NextTask,
  markInternal,
  refreshInterval: () => 16.7,
} as unknown as Lent;

function started() {
  const session = new RecordingSession('friday', 0, false);
  const capture = inputListeners(lent);
  capture.start(session);
  const told = () =>
    session
      .takeRows()
      .flatMap((row) => (row.kind === 'input' ? [[row.type, row.durationMs, row.belowMs]] : []));
  return { capture, told };
}
function press(type: string, atMs: number): void {
  page.nowMs = atMs;
  page.listeners.get(type)!({ type, isTrusted: true, timeStamp: atMs, composedPath: () => [undefined] });
}
const paint = (startMs: number) =>
  rendered({ startMs, styledMs: startMs + 1, laidOutMs: startMs + 2, paintedMs: startMs + 4 });
function nextFrame(atMs: number): void {
  page.nowMs = atMs;
  for (const frame of page.frames.splice(0)) frame();
}

beforeEach(() => {
  page.frames.length = 0;
});

it('tells an input once its picture is on the screen, and once only', () => {
  const { told } = started();
  press('click', 100);
  paint(110);
  nextFrame(126);
  paint(127);
  expect(told()).toEqual([]);
  nextFrame(142);
  expect(told()).toEqual([['click', 34, undefined]]);
  nextFrame(160);
  nextFrame(176);
  expect(told()).toEqual([]);
});

it('tells what a page was left by, whether it was painted by then or not', () => {
  const { capture, told } = started();
  press('pointerdown', 100);
  paint(110);
  nextFrame(126);
  press('click', 130);
  page.nowMs = 180;
  void capture.stop(true);
  expect(told()).toEqual([
    ['pointerdown', 0, 80],
    ['click', 0, 50],
  ]);
});
