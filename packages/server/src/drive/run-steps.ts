import type { Browser, ElementReference, InputSource } from './browser';
import {
  KEYS,
  STEP_DEFAULTS,
  type Distance,
  type DragStep,
  type Step,
  type TypeStep,
} from '@nettle-patch/core';

/** An element to be used is there within this; one that is waited for may come with an answer, or with a slow start. */
const FIND_LIMIT_MS = 10_000;
const WAIT_LIMIT_MS = 30_000;
const POLL_MS = 50;
const STAND_IN = 'estrin';

/** Thrown when a step cannot be taken. The message names it by its number, from 1; the cause is what the browser said. */
export class StepError extends Error {
  override readonly name = 'StepError';
}

type Action = InputSource['actions'][number];

const mouse = (...actions: Action[]): InputSource => ({
  type: 'pointer',
  id: 'mouse',
  parameters: { pointerType: 'mouse' },
  actions,
});
const keyboard = (...actions: Action[]): InputSource => ({ type: 'key', id: 'keyboard', actions });
const pause = (duration: number): Action => ({ type: 'pause', duration });
const moveTo = (origin: unknown, { x, y }: Distance = { x: 0, y: 0 }): Action => ({
  type: 'pointerMove',
  origin,
  x,
  y,
  duration: 0,
});
const down: Action = { type: 'pointerDown', button: 0 };
const up: Action = { type: 'pointerUp', button: 0 };
const click: readonly Action[] = [down, pause(STEP_DEFAULTS.pressMs), up];

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function find(browser: Browser, selector: string, limitMs = FIND_LIMIT_MS): Promise<ElementReference> {
  const untilMs = Date.now() + limitMs;
  for (;;) {
    const found = await browser.find(selector);
    if (found !== undefined) return found;
    if (Date.now() > untilMs) throw new Error(`nothing matched "${selector}" within ${limitMs / 1000} s`);
    await sleep(POLL_MS);
  }
}

/** Gives input at an element, which is brought into view if it is not. */
async function at(
  browser: Browser,
  selector: string,
  input: (origin: unknown) => InputSource[],
): Promise<void> {
  const element = await find(browser, selector);
  const sources = input(browser.originOf(element));
  try {
    await browser.perform(sources);
  } catch {
    await browser.scrollIntoView(element);
    await browser.perform(sources);
  }
}

/** Letters for a text that was not kept: common ones, in turn. */
function standInFor(length: number): string {
  return STAND_IN.repeat(Math.ceil(length / STAND_IN.length)).slice(0, length);
}

async function type(browser: Browser, step: TypeStep): Promise<void> {
  const { on, text = standInFor(step.length ?? 0), everyMs = STEP_DEFAULTS.betweenKeysMs } = step;
  if (on !== undefined) {
    await at(browser, on, (origin) => [mouse(moveTo(origin), ...click)]);
    await sleep(everyMs);
  }
  for (const [index, value] of [...text].entries()) {
    if (index > 0) await sleep(everyMs);
    await browser.perform([keyboard({ type: 'keyDown', value }, { type: 'keyUp', value })]);
  }
}

async function drag(browser: Browser, step: DragStep): Promise<void> {
  const { by, moves = STEP_DEFAULTS.dragMoves, everyMs = STEP_DEFAULTS.betweenMovesMs } = step;
  await at(browser, step.on, (origin) => [
    mouse(moveTo(origin, step.at), down, pause(STEP_DEFAULTS.pressMs)),
  ]);
  let before = { x: 0, y: 0 };
  for (let move = 1; move <= moves; move++) {
    const to = { x: Math.round((by.x * move) / moves), y: Math.round((by.y * move) / moves) };
    await browser.perform([
      mouse(moveTo('pointer', { x: to.x - before.x, y: to.y - before.y }), pause(everyMs)),
    ]);
    before = to;
  }
  await browser.perform([mouse(up)]);
}

async function perform(browser: Browser, step: Step, openUrl: (url: string) => string): Promise<void> {
  switch (step.do) {
    case 'click':
      return at(browser, step.on, (origin) => [mouse(moveTo(origin, step.at), ...click)]);
    case 'double-click':
      return at(browser, step.on, (origin) => [
        mouse(moveTo(origin, step.at), ...click, pause(STEP_DEFAULTS.pressMs), ...click),
      ]);
    case 'hover':
      return at(browser, step.on, (origin) => [mouse(moveTo(origin))]);
    case 'wait-for':
      return void (await find(browser, step.on, WAIT_LIMIT_MS));
    case 'type':
      return type(browser, step);
    case 'key': {
      const keys = [...(step.with ?? []), step.key].map((key) => KEYS[key] ?? key);
      const downs = keys.map((value) => ({ type: 'keyDown', value }));
      const ups = keys.toReversed().map((value) => ({ type: 'keyUp', value }));
      return browser.perform([keyboard(...downs, ...ups)]);
    }
    case 'choose':
      return browser.choose(await find(browser, step.on), step.index);
    case 'drag':
      return drag(browser, step);
    case 'scroll': {
      const scroll = (origin: unknown): InputSource[] => [
        {
          type: 'wheel',
          id: 'wheel',
          actions: [
            { type: 'scroll', origin, x: 0, y: 0, deltaX: step.by.x, deltaY: step.by.y, duration: 0 },
          ],
        },
      ];
      return step.on === undefined ? browser.perform(scroll('viewport')) : at(browser, step.on, scroll);
    }
    case 'wait':
      return void (await sleep(step.ms));
    case 'navigate':
      return browser.navigate(openUrl(step.url));
  }
}

/**
 * Takes the steps one after the other, with real input.
 * @param openUrl gives the address at which an address of the app is opened to be recorded
 * @throws StepError
 */
export async function runSteps(
  browser: Browser,
  steps: readonly Step[],
  openUrl: (url: string) => string,
): Promise<void> {
  for (const [index, step] of steps.entries()) {
    try {
      await perform(browser, step, openUrl);
    } catch (error) {
      throw new StepError(`step ${index + 1} (${step.do}): ${(error as Error).message}`, { cause: error });
    }
  }
}
