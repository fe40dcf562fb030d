import type { Entries, Scheduled } from './entries';
import { guarded, isOurs } from './ours';
import { replaceAccessor, replaceMethod, type AnyFunction } from './replace';

const replacements = new WeakMap<object, AnyFunction>();
const originals = new WeakMap<object, object>();

/** What led to the events of a target, such as the sending of a request. */
export type EventCause = (target: object, event: Event) => Scheduled | undefined;

/** "BUTTON#board-all.onclick", as Long Animation Frames names an event's listener. */
function invokerOf(target: unknown, type: string): string {
  if (target instanceof Element) {
    return `${target.tagName}${target.id === '' ? '' : `#${target.id}`}.on${type}`;
  }
  return `${(target as object | undefined)?.constructor.name ?? 'Window'}.on${type}`;
}

/** The one function that stands for a listener, wherever and however often it is added. */
function replacementOf(listener: object, entries: Entries, causeOf: EventCause): AnyFunction {
  const known = replacements.get(listener);
  if (known !== undefined) return known;
  const replacement = function (this: unknown, event: Event) {
    const handle = typeof listener === 'function' ? listener : (listener as EventListenerObject).handleEvent;
    const self = typeof listener === 'function' ? this : listener;
    if (!entries.recording || typeof handle !== 'function')
      return Reflect.apply(handle as AnyFunction, self, arguments);
    return entries.run(handle as AnyFunction, self, arguments, {
      type: 'event-listener',
      invoker: () => invokerOf(this, event?.type ?? ''),
      schedule: guarded(() => causeOf(this as object, event)),
    });
  };
  replacements.set(listener, replacement);
  originals.set(replacement, listener);
  return replacement;
}

const isListener = (listener: unknown): listener is object =>
  (typeof listener === 'function' || (typeof listener === 'object' && listener !== null)) &&
  !isOurs(listener);

/** Replaces `addEventListener` and `removeEventListener`, so that each listener's calls are seen. */
export function wrapListeners(entries: Entries, causeOf: EventCause): void {
  const { prototype } = EventTarget;
  replaceMethod(
    prototype,
    'addEventListener',
    (original) =>
      function (this: unknown, ...args: unknown[]) {
        if (isListener(args[1])) args[1] = replacementOf(args[1], entries, causeOf);
        return Reflect.apply(original, this, args);
      },
  );
  replaceMethod(
    prototype,
    'removeEventListener',
    (original) =>
      function (this: unknown, ...args: unknown[]) {
        const [, listener] = args;
        if (typeof listener === 'object' || typeof listener === 'function') {
          args[1] = (listener && replacements.get(listener)) ?? listener;
        }
        return Reflect.apply(original, this, args);
      },
  );
}

/** Replaces the `on…` properties of an object, so that the handlers set through them are seen. */
export function wrapHandlerProperties(owner: object, entries: Entries, causeOf: EventCause): void {
  for (const name of Object.getOwnPropertyNames(owner)) {
    if (!name.startsWith('on')) continue;
    replaceAccessor(owner, name, {
      get: (original) =>
        function (this: unknown) {
          const value: unknown = Reflect.apply(original, this, []);
          return (typeof value === 'function' && originals.get(value)) || value;
        },
      set: (original) =>
        function (this: unknown, value: unknown) {
          const replaced =
            typeof value === 'function' && isListener(value) ? replacementOf(value, entries, causeOf) : value;
          return Reflect.apply(original, this, [replaced]);
        },
    });
  }
}
