import type { Browser, ElementReference, InputSource } from './browser';
import { KEYS, type Step } from './steps';

const FIND_LIMIT_MS = 10_000;
const POLL_MS = 50;
/** How long a button is held down by a quick finger. */
const PRESS_MS = 40;
const BETWEEN_KEYS_MS = 120;
const DRAG_MOVES = 12;
const BETWEEN_MOVES_MS = 30;

/** Thrown when a step cannot be taken. The message names it by its number, from 1. */
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
const moveTo = (origin: unknown, x = 0, y = 0, duration = 0): Action => ({
  type: 'pointerMove',
  origin,
  x,
  y,
  duration,
});
const down: Action = { type: 'pointerDown', button: 0 };
const up: Action = { type: 'pointerUp', button: 0 };
const click: readonly Action[] = [down, pause(PRESS_MS), up];

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function find(browser: Browser, selector: string): Promise<ElementReference> {
  const untilMs = Date.now() + FIND_LIMIT_MS;
  for (;;) {
    const found = await browser.find(selector);
    if (found !== undefined) return found;
    if (Date.now() > untilMs)
      throw new Error(`nothing matched "${selector}" within ${FIND_LIMIT_MS / 1000} s`);
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

async function type(browser: Browser, text: string, everyMs: number): Promise<void> {
  for (const value of text) {
    await browser.perform([keyboard({ type: 'keyDown', value }, { type: 'keyUp', value })]);
    await sleep(everyMs);
  }
}

async function drag(browser: Browser, step: Extract<Step, { do: 'drag' }>): Promise<void> {
  const { by, moves = DRAG_MOVES, everyMs = BETWEEN_MOVES_MS } = step;
  await at(browser, step.on, (origin) => [mouse(moveTo(origin), down, pause(PRESS_MS))]);
  let before = { x: 0, y: 0 };
  for (let move = 1; move <= moves; move++) {
    const to = { x: Math.round((by.x * move) / moves), y: Math.round((by.y * move) / moves) };
    await browser.perform([mouse(moveTo('pointer', to.x - before.x, to.y - before.y), pause(everyMs))]);
    before = to;
  }
  await browser.perform([mouse(up)]);
}

async function perform(browser: Browser, step: Step, openUrl: (url: string) => string): Promise<void> {
  switch (step.do) {
    case 'click':
      return at(browser, step.on, (origin) => [mouse(moveTo(origin), ...click)]);
    case 'double-click':
      return at(browser, step.on, (origin) => [mouse(moveTo(origin), ...click, pause(PRESS_MS), ...click)]);
    case 'hover':
      return at(browser, step.on, (origin) => [mouse(moveTo(origin))]);
    case 'wait-for':
      return void (await find(browser, step.on));
    case 'type':
      if (step.on !== undefined) await at(browser, step.on, (origin) => [mouse(moveTo(origin), ...click)]);
      await sleep(step.everyMs ?? BETWEEN_KEYS_MS);
      return type(browser, step.text, step.everyMs ?? BETWEEN_KEYS_MS);
    case 'key': {
      const value = KEYS[step.key] ?? step.key;
      return browser.perform([keyboard({ type: 'keyDown', value }, { type: 'keyUp', value })]);
    }
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
export async function takeSteps(
  browser: Browser,
  steps: readonly Step[],
  openUrl: (url: string) => string,
): Promise<void> {
  for (const [index, step] of steps.entries()) {
    try {
      await perform(browser, step, openUrl);
    } catch (error) {
      throw new StepError(`step ${index + 1} (${step.do}): ${(error as Error).message}`);
    }
  }
}
