import type { Distance, Step } from '@nettle-patch/core';
import { selectorOf } from './selector';

/** A finger that moves less still taps. CSS pixels. */
const TAP_PX = 4;
/** In something smaller it does not matter where it is hit. CSS pixels. */
const SMALL_PX = 48;
const CONTROL = 'button,a[href],input,select,textarea,summary,label,[role=button]';

/** The page's own way to ask, before anything is put in its place. */
const rectOf = Function.prototype.call.bind(Element.prototype.getBoundingClientRect) as (
  element: Element,
) => DOMRect;

/** Where an element is hit, from its middle; undefined where its middle does as well. */
function placeIn(element: Element, { clientX, clientY }: MouseEvent): Distance | undefined {
  const { left, top, width, height } = rectOf(element);
  if (element.closest(CONTROL) === element || Math.max(width, height) < SMALL_PX) return undefined;
  return { x: Math.round(clientX - left - width / 2), y: Math.round(clientY - top - height / 2) };
}

/** A press of a pointer, from when it goes down until it goes up. */
export class Pointing {
  readonly on: string;
  readonly #at: Distance | undefined;
  readonly #fromX: number;
  readonly #fromY: number;
  #moves = 0;
  /** Whether it drags something by the browser's own drag and drop. */
  carries = false;

  constructor(
    readonly startMs: number,
    readonly element: Element,
    event: MouseEvent,
  ) {
    this.on = selectorOf(element);
    this.#at = placeIn(element, event);
    this.#fromX = event.clientX;
    this.#fromY = event.clientY;
  }

  move(): void {
    this.#moves++;
  }

  /** What was done, by where and when it ended. */
  step({ clientX, clientY }: MouseEvent, endMs: number): Step {
    const by = { x: Math.round(clientX - this.#fromX), y: Math.round(clientY - this.#fromY) };
    const where = this.#at === undefined ? { on: this.on } : { on: this.on, at: this.#at };
    if (Math.hypot(by.x, by.y) <= TAP_PX) return { do: 'click', ...where };
    const moves = Math.max(1, Math.min(1000, this.#moves));
    return { do: 'drag', ...where, by, moves, everyMs: Math.round((endMs - this.startMs) / moves) };
  }
}
