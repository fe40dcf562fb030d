import { apply } from '../natives';
import { shared } from '../shared';
import type { ScriptEntryTracker, EntryAbout } from './script-entries';
import { guarded } from './internal';
import { replaceAccessor, replaceMethod, type AnyFunction } from './replace';

const { replacements, originals } = shared;

/** What led to the events of a target, such as the sending of a request. */
export type EventCause = (
  target: object,
  event: Event,
) => Pick<EntryAbout, 'schedule' | 'message'> | undefined;

/** Workers have no elements. */
const isWindow = 'Element' in globalThis;

/** "BUTTON#board-all.onclick", as Long Animation Frames names an event's listener. */
function invokerOf(target: unknown, type: string): string {
  if (isWindow && target instanceof Element) {
    return `${target.tagName}${target.id === '' ? '' : `#${target.id}`}.on${type}`;
  }
  return `${(target as object | undefined)?.constructor.name ?? 'Window'}.on${type}`;
}

const isListener = (listener: unknown): listener is object =>
  typeof listener === 'function' || (typeof listener === 'object' && listener !== null);

/** Puts listeners of its own in place of the app's, so that each call of them is seen. */
export class Listeners {
  constructor(
    private readonly entries: ScriptEntryTracker,
    private readonly causeOf: EventCause,
  ) {}

  /** Replaces the functions of a window or worker by which listeners are added and removed. */
  wrapListening({ EventTarget, MediaQueryList }: typeof globalThis): void {
    const standIn = (listener: unknown) => this.#standInFor(listener);
    const known = (listener: unknown) => replacements.get(listener as object) ?? listener;
    const wrap = (
      owner: object | undefined,
      name: string,
      at: number,
      replace: (listener: unknown) => unknown,
    ) =>
      replaceMethod(owner, name, (original) => ({
        instead(...args) {
          if (isListener(args[at])) args[at] = replace(args[at]);
          return apply(original, this, args);
        },
      }));
    wrap(EventTarget.prototype, 'addEventListener', 1, standIn);
    wrap(EventTarget.prototype, 'removeEventListener', 1, known);
    wrap((MediaQueryList as typeof MediaQueryList | undefined)?.prototype, 'addListener', 0, standIn);
    wrap((MediaQueryList as typeof MediaQueryList | undefined)?.prototype, 'removeListener', 0, known);
  }

  /** Replaces the `on…` properties of an object, so that the handlers set through them are seen. */
  wrapHandlers(owner: object): void {
    const standIn = (listener: object) => this.#standInFor(listener);
    for (const name of Object.getOwnPropertyNames(owner)) {
      if (!name.startsWith('on')) continue;
      replaceAccessor(owner, name, {
        get: (original) => ({
          instead() {
            const value: unknown = apply(original, this, []);
            return (isListener(value) && originals.get(value)) || value;
          },
        }),
        set: (original) => ({
          instead(...args) {
            if (typeof args[0] === 'function') args[0] = standIn(args[0]);
            return apply(original, this, args);
          },
        }),
      });
    }
  }

  /** The one function or object that stands for a listener, wherever and however often it is added. */
  #standInFor(listener: unknown): unknown {
    if (!isListener(listener) || originals.has(listener)) return listener;
    let replacement = replacements.get(listener);
    if (replacement === undefined) {
      replacement = typeof listener === 'function' ? this.#function(listener) : this.#object(listener);
      replacements.set(listener, replacement);
      originals.set(replacement, listener);
    }
    return replacement;
  }

  #about(target: unknown, event: Event | undefined): EntryAbout {
    return {
      type: 'event-listener',
      invoker: () => invokerOf(target, event?.type ?? ''),
      ...guarded(() => this.causeOf(target as object, event!)),
    };
  }

  #function(listener: object): object {
    const { entries } = this;
    const about = this.#about.bind(this);
    return function (this: unknown, event: Event) {
      return entries.run(listener as AnyFunction, this, arguments, about(this, event));
    };
  }

  /** Has the browser read `handleEvent` as it would of the listener, once an event, and say itself what is wrong with it. */
  #object(listener: object): object {
    const { entries } = this;
    const about = this.#about.bind(this);
    return {
      get handleEvent(): unknown {
        const { handleEvent } = listener as { handleEvent?: unknown };
        if (typeof handleEvent !== 'function') return handleEvent;
        return (event: Event) =>
          entries.run(handleEvent as AnyFunction, listener, [event], about(event.currentTarget, event));
      },
    };
  }
}
