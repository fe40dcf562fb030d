import { elementLabel } from '../element-label';
import { ours } from '../wrap/ours';

const TYPES = [
  'pointerdown',
  'pointerup',
  'click',
  'keydown',
  'keyup',
  'input',
  'dragstart',
  'drop',
] as const;
const REMEMBERED = 128;

/** An input as the page saw it begin. */
export interface UsedElement {
  readonly type: string;
  readonly timeStamp: number;
  readonly label: string;
}

/**
 * Remembers what the latest inputs were used on, by the time stamp they share with Event Timing. An entry of
 * Event Timing comes after the answer is on the screen, when the element may be gone.
 */
export class UsedElements {
  readonly #latest: UsedElement[] = [];
  readonly #listener = ours((event: Event) => {
    this.#latest.push({
      type: event.type,
      timeStamp: event.timeStamp,
      label: elementLabel(event.composedPath()[0]),
    });
    if (this.#latest.length > REMEMBERED) this.#latest.shift();
  });

  start(): void {
    for (const type of TYPES) addEventListener(type, this.#listener, { capture: true, passive: true });
  }

  stop(): void {
    for (const type of TYPES) removeEventListener(type, this.#listener, { capture: true });
    this.#latest.length = 0;
  }

  labelAt(type: string, timeStamp: number): string | undefined {
    return this.#latest.find((used) => used.type === type && used.timeStamp === timeStamp)?.label;
  }

  /** Takes out inputs of some types that began before a time. */
  takeOlderThan(timeStamp: number, types: readonly string[]): UsedElement[] {
    const old = this.#latest.filter((used) => used.timeStamp < timeStamp);
    this.#latest.splice(0, old.length);
    return old.filter((used) => types.includes(used.type));
  }
}
