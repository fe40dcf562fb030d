import { plainAddress } from '../address';
import { apply, construct, follow } from '../natives';
import type { ScriptEntryTracker, EntryAbout, Scheduled } from './script-entries';
import { guarded } from './internal';
import { replaceAccessor, replaceClass, replaceMethod, type AnyFunction, type Replacement } from './replace';
import { cameFrom, lineOf } from './worker-line';

type Callbacks = Readonly<Record<string, readonly [type: Scheduled['type'], invoker: string]>>;

/** Functions of the window that call back once or again, and how Long Animation Frames names their calls. */
const CALLBACKS: Callbacks = {
  setTimeout: ['timer', 'TimerHandler:setTimeout'],
  setInterval: ['interval', 'TimerHandler:setInterval'],
  requestAnimationFrame: ['frame', 'FrameRequestCallback'],
  requestIdleCallback: ['idle', 'IdleRequestCallback'],
  queueMicrotask: ['microtask', 'MicrotaskCallback'],
};

const MAX_WAITING = 256;

const OBSERVERS = ['MutationObserver', 'ResizeObserver', 'IntersectionObserver', 'PerformanceObserver'];

/** Counts the app's frame callbacks that are still to come, so that it is known which is the last of a frame. */
export class PendingFrames {
  /** Those asked for; the browser takes all of them into the next frame (HTML, section 8.10). */
  #waiting = new Set<number>();
  /** Those of the frame that is being made which have not run yet. */
  #due = new Set<number>();
  #last: (() => void) | undefined;

  /** @param listener is called when the last one of a frame has run */
  onLast(listener: () => void): void {
    this.#last = listener;
  }

  add(handle: number): void {
    this.#waiting.add(handle);
  }

  cancel(handle: number): void {
    this.#waiting.delete(handle);
    this.#due.delete(handle);
  }

  /** One of them begins to run. */
  begin(handle: number): void {
    if (this.#due.has(handle)) return;
    this.#due = this.#waiting;
    this.#waiting = new Set();
  }

  ran(handle: number): void {
    this.#due.delete(handle);
    if (this.#due.size === 0) this.#last?.();
  }
}

/** A delay as it is given; one that would have to be converted is the engine's to convert, and not known. Milliseconds. */
function delayOf(given: unknown): number | undefined {
  const isPlain = given === undefined || typeof given === 'number' || typeof given === 'string';
  return isPlain ? Math.max(0, Number(given) || 0) : undefined;
}

/**
 * Replaces the functions that take a callback for later, so that each call is seen with what asked for it.
 * @param owner what has them
 */
export function wrapCallbacks(
  entries: ScriptEntryTracker,
  frames: PendingFrames,
  owner: object = globalThis,
): void {
  for (const [name, [type, invoker]] of Object.entries(CALLBACKS)) {
    replaceMethod(owner, name, (original) => ({
      instead(...args) {
        const callback: unknown = args[0];
        if (typeof callback !== 'function') return apply(original, this, args);
        const delayMs = type === 'timer' || type === 'interval' ? delayOf(args[1]) : undefined;
        const schedule = entries.schedule(type, callback, { delayMs });
        args[0] = function (this: unknown) {
          const about = { type: 'user-callback', invoker, schedule } as const;
          if (type === 'frame') frames.begin(handle);
          try {
            return entries.run(callback as AnyFunction, this, arguments, about);
          } finally {
            if (type === 'frame') frames.ran(handle);
          }
        };
        const handle = apply(original, this, args) as number;
        if (type === 'frame') frames.add(handle);
        return handle;
      },
    }));
  }
  replaceMethod(owner, 'cancelAnimationFrame', (original) => ({
    instead(...args) {
      frames.cancel(args[0] as number);
      return apply(original, this, args);
    },
  }));
}

/** Replaces the classes of observers, so that the calls of their callbacks are seen. */
export function wrapObservers(entries: ScriptEntryTracker): void {
  for (const name of OBSERVERS) {
    replaceClass(name, (original, args, newTarget) => {
      const [callback] = args;
      if (typeof callback === 'function') {
        args[0] = function (this: unknown) {
          const about = { type: 'user-callback', invoker: name } as const;
          return entries.run(callback as AnyFunction, this, arguments, about);
        };
      }
      return construct(original, args, newTarget) as object;
    });
  }
}

/** Who sent what a message port got: ports keep the order, so the first sent is the first to come. */
export class SentMessages {
  readonly #partners = new WeakMap<object, object>();
  readonly #waiting = new WeakMap<object, (Scheduled | undefined)[]>();
  readonly #causes = new WeakMap<Event, Scheduled | undefined>();

  /** @param workers what has the function by which a message goes to another thread */
  constructor(
    private readonly entries: ScriptEntryTracker,
    private readonly workers: object | undefined,
  ) {}

  install(): void {
    replaceClass('MessageChannel', (original, args, newTarget) => {
      const channel = construct(original, args, newTarget) as MessageChannel;
      this.#partners.set(channel.port1, channel.port2).set(channel.port2, channel.port1);
      return channel;
    });
    const sent = this.#sent.bind(this);
    replaceMethod(MessagePort.prototype, 'postMessage', (original) => ({
      instead(...args) {
        const value: unknown = apply(original, this, args);
        sent(this as MessagePort);
        return value;
      },
    }));
    const { entries } = this;
    replaceMethod(this.workers, 'postMessage', (original) => ({
      instead(...args) {
        const value: unknown = apply(original, this, args);
        guarded(() => {
          const line = lineOf((this as object | undefined) ?? globalThis);
          if (line) entries.send(line.thread, ++line.sent);
        });
        return value;
      },
    }));
  }

  /** What sent the message that an event at a port, or from another thread, is about. */
  causeOf(target: object, event: Event): Pick<EntryAbout, 'schedule' | 'message'> | undefined {
    const message = cameFrom(event);
    if (message) return { message };
    if (event.type !== 'message' || !this.#waiting.has(target)) return undefined;
    if (!this.#causes.has(event)) this.#causes.set(event, this.#waiting.get(target)!.shift());
    return { schedule: this.#causes.get(event) };
  }

  /** A port that takes nothing out, because it lives elsewhere or nobody listens, is given up. */
  #sent(port: MessagePort): void {
    const partner = this.#partners.get(port);
    if (partner === undefined) return;
    const waiting = this.#waiting.get(partner) ?? [];
    if (waiting.length === 0) this.#waiting.set(partner, waiting);
    waiting.push(this.entries.schedule('message', undefined));
    if (waiting.length <= MAX_WAITING) return;
    this.#partners.delete(port);
    this.#waiting.delete(partner);
  }
}

/** An address as it is given. One that would have to be converted is the engine's to convert, and not known. */
function addressOf(given: unknown): string | undefined {
  if (typeof given === 'string') return given;
  return given instanceof Request ? given.url : given instanceof URL ? given.href : undefined;
}

/** Requests that were sent, each with what asked for it. */
export class SentRequests {
  readonly #ofObject = new WeakMap<object, Scheduled>();

  /**
   * @param onRequest is called for each, with its address
   * @param onResume is called when a promise about an answer has been fulfilled
   */
  constructor(
    private readonly entries: ScriptEntryTracker,
    private readonly onRequest: (url: string) => void,
    private readonly onResume: () => void,
  ) {}

  causeOf(target: object): Scheduled | undefined {
    return this.#ofObject.get(target);
  }

  install(): void {
    this.#wrapFetch();
    this.#wrapXhr();
  }

  #schedule(url: string | undefined): Scheduled | undefined {
    if (url === undefined) return undefined;
    guarded(() => this.onRequest(url));
    return this.entries.schedule('request', undefined, { url: plainAddress(url) });
  }

  #wrapFetch(): void {
    const schedule = this.#schedule.bind(this);
    const settle = this.#settle.bind(this);
    const scheduleOf = this.#ofObject;
    replaceMethod(globalThis, 'fetch', (original) => ({
      instead(...args) {
        const promise = apply(original, this, args) as Promise<object>;
        const scheduled = schedule(addressOf(args[0]));
        return scheduled === undefined ? promise : settle(promise, scheduled);
      },
    }));
    const settled = (owner: object | undefined, names: string) => {
      for (const name of names.split(' ')) {
        replaceMethod(owner, name, (original) => ({
          instead(...args) {
            const promise = apply(original, this, args) as Promise<object>;
            const scheduled = scheduleOf.get(this as object);
            return scheduled === undefined ? promise : settle(promise, scheduled);
          },
        }));
      }
    };
    /** What is made of an answer is of the same request. */
    const handedOn = (original: AnyFunction): Replacement => ({
      instead(...args) {
        const made = apply(original, this, args) as object | null;
        const scheduled = scheduleOf.get(this as object);
        if (scheduled && made) scheduleOf.set(made, scheduled);
        return made;
      },
    });
    const { prototype } = Response;
    settled(prototype, 'json text arrayBuffer blob formData bytes');
    settled(ReadableStreamDefaultReader.prototype, 'read');
    replaceAccessor(prototype, 'body', { get: handedOn });
    replaceMethod(prototype, 'clone', handedOn);
    replaceMethod(ReadableStream.prototype, 'getReader', handedOn);
    replaceMethod(ReadableStream.prototype, 'pipeThrough', handedOn);
  }

  /** A promise like the given one; what comes of it is known to come of the request. */
  #settle(promise: Promise<object>, schedule: Scheduled): Promise<object> {
    const resume = (value?: object) =>
      guarded(() => {
        if (value instanceof Response) this.#ofObject.set(value, schedule);
        this.entries.resume({
          type: 'resolve-promise',
          invoker: `fetch ${schedule.about.url ?? ''}`,
          schedule,
        });
        this.onResume();
      });
    return follow(
      promise,
      (value) => {
        resume(value);
        return value;
      },
      (error: unknown) => {
        resume();
        throw error;
      },
    );
  }

  #wrapXhr(): void {
    const schedule = this.#schedule.bind(this);
    const scheduleOf = this.#ofObject;
    const urls = new WeakMap<object, string | undefined>();
    replaceMethod(XMLHttpRequest.prototype, 'open', (original) => ({
      instead(...args) {
        const value: unknown = apply(original, this, args);
        urls.set(this as object, addressOf(args[1]));
        return value;
      },
    }));
    replaceMethod(XMLHttpRequest.prototype, 'send', (original) => ({
      instead(...args) {
        const scheduled = schedule(urls.get(this as object));
        if (scheduled !== undefined) scheduleOf.set(this as object, scheduled);
        return apply(original, this, args);
      },
    }));
  }
}
