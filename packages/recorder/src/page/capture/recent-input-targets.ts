import { elementLabel } from '../element-label';
import { markInternal } from '../wrap/internal';
import { InteractionNumbers } from './interaction-numbers';
import { listen, stopListening } from '../natives';

const TYPES = [
  'pointerdown',
  'pointerup',
  'pointercancel',
  'click',
  'keydown',
  'keyup',
  'input',
  'dragstart',
  'drop',
] as const;
const REMEMBERED = 128;

/** An input as the page saw it begin. */
export interface RecentInputTarget {
  readonly type: string;
  readonly timeStamp: number;
  readonly label: string;
  /** Shared by the events of one interaction, which a press of a pointer or a key begins. */
  readonly interaction: number;
  /** How often rows have been collected since: none are while the page hangs. */
  collections: number;
}

/**
 * Remembers what the latest inputs were used on, by the time stamp they share with Event Timing. An entry of
 * Event Timing comes after the answer is on the screen, when the element may be gone.
 */
export class RecentInputTargets {
  readonly #latest: RecentInputTarget[] = [];
  readonly #numbers = new InteractionNumbers();
  readonly #listener = markInternal((event: Event) => {
    const { type, timeStamp } = event;
    this.#latest.push({
      type,
      timeStamp,
      label: elementLabel(event.composedPath()[0]),
      interaction: this.#numbers.of(type),
      collections: 0,
    });
    if (this.#latest.length > REMEMBERED) this.#latest.shift();
  });

  start(): void {
    for (const type of TYPES) listen(globalThis, type, this.#listener, { capture: true, passive: true });
  }

  stop(): void {
    for (const type of TYPES) stopListening(globalThis, type, this.#listener, { capture: true });
    this.#latest.length = 0;
  }

  at(type: string, timeStamp: number): RecentInputTarget | undefined {
    return this.#latest.find((used) => used.type === type && used.timeStamp === timeStamp);
  }

  /** Notes that rows are collected, and takes out inputs of some types that so many collections have gone by since. */
  collect(most: number, types: readonly string[]): RecentInputTarget[] {
    for (const used of this.#latest) used.collections++;
    const fresh = this.#latest.findIndex((used) => used.collections < most);
    const old = this.#latest.splice(0, fresh < 0 ? this.#latest.length : fresh);
    return old.filter((used) => types.includes(used.type));
  }
}
