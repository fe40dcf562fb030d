import type { Step } from '@nettle-patch/core';
import { selectorOf } from './selector';

const LINE_PX = 16;

/** Turns of the wheel, or a swipe, in one go. */
export class Scrolling {
  #on: string | undefined;
  #isSure = false;
  #x = 0;
  #y = 0;
  endMs: number;

  /** @param element undefined for the page itself */
  constructor(
    readonly startMs: number,
    readonly element: Element | undefined,
  ) {
    this.#on = element && selectorOf(element);
    this.endMs = startMs;
  }

  /** Takes what has moved: where the wheel is turned is inside of it. The first is the nearest. */
  moved(scroller: EventTarget | null): void {
    if (this.#isSure) return;
    this.#isSure = true;
    this.#on = scroller instanceof Element ? selectorOf(scroller) : undefined;
  }

  turn({ deltaX, deltaY, deltaMode }: WheelEvent, atMs: number): void {
    const unit = [1, LINE_PX, innerHeight][deltaMode]!;
    this.#x += deltaX * unit;
    this.#y += deltaY * unit;
    this.endMs = atMs;
  }

  /** Takes how far a swipe has moved the content, in all. */
  swipe(x: number, y: number, atMs: number): void {
    this.#x = x;
    this.#y = y;
    this.endMs = atMs;
  }

  /** Undefined where nothing has moved. */
  get step(): Step | undefined {
    const by = { x: Math.round(this.#x), y: Math.round(this.#y) };
    if (by.x === 0 && by.y === 0) return undefined;
    return { do: 'scroll', ...(this.#on === undefined ? {} : { on: this.#on }), by };
  }
}
