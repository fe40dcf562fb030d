import { plainAddress } from '../address';
import type { Entries, Scheduled } from './entries';
import { guarded, isOurs } from './ours';
import { replaceClass, replaceMethod, type AnyFunction } from './replace';

type Callbacks = Readonly<Record<string, readonly [type: Scheduled['type'], invoker: string]>>;

/** Functions of the window that call back once or again, and how Long Animation Frames names their calls. */
const CALLBACKS: Callbacks = {
  setTimeout: ['timer', 'TimerHandler:setTimeout'],
  setInterval: ['interval', 'TimerHandler:setInterval'],
  requestAnimationFrame: ['frame', 'FrameRequestCallback'],
  requestIdleCallback: ['idle', 'IdleRequestCallback'],
  queueMicrotask: ['microtask', 'MicrotaskCallback'],
};

const MOST_WAITING = 256;

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

/** Replaces the functions that take a callback for later, so that each call is seen with what asked for it. */
export function wrapCallbacks(entries: Entries, frames: PendingFrames): void {
  for (const [name, [type, invoker]] of Object.entries(CALLBACKS)) {
    replaceMethod(
      globalThis,
      name,
      (original) =>
        function (this: unknown, ...args: unknown[]) {
          const [callback, delay] = args;
          if (typeof callback !== 'function' || isOurs(callback)) return Reflect.apply(original, this, args);
          const delayMs =
            type === 'timer' || type === 'interval' ? Math.max(0, Number(delay) || 0) : undefined;
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
          const handle = Reflect.apply(original, this, args) as number;
          if (type === 'frame') frames.add(handle);
          return handle;
        },
    );
  }
  replaceMethod(
    globalThis,
    'cancelAnimationFrame',
    (original) =>
      function (this: unknown, handle: number) {
        frames.cancel(handle);
        return Reflect.apply(original, this, arguments);
      },
  );
}

/** Replaces the classes of observers, so that the calls of their callbacks are seen. */
export function wrapObservers(entries: Entries): void {
  for (const name of OBSERVERS) {
    replaceClass(name, (original, args, newTarget) => {
      const [callback] = args;
      if (typeof callback === 'function' && !isOurs(callback)) {
        args[0] = function (this: unknown) {
          const about = { type: 'user-callback', invoker: name } as const;
          return entries.run(callback as AnyFunction, this, arguments, about);
        };
      }
      return Reflect.construct(original, args, newTarget) as object;
    });
  }
}

/** Who sent what a message port got: ports keep the order, so the first sent is the first to come. */
export class SentMessages {
  readonly #partners = new WeakMap<object, object>();
  readonly #waiting = new WeakMap<object, (Scheduled | undefined)[]>();
  readonly #causes = new WeakMap<Event, Scheduled | undefined>();

  constructor(private readonly entries: Entries) {}

  install(): void {
    replaceClass('MessageChannel', (original, args, newTarget) => {
      const channel = Reflect.construct(original, args, newTarget) as MessageChannel;
      this.#partners.set(channel.port1, channel.port2).set(channel.port2, channel.port1);
      return channel;
    });
    const sent = this.#sent.bind(this);
    replaceMethod(
      MessagePort.prototype,
      'postMessage',
      (original) =>
        function (this: MessagePort) {
          const value: unknown = Reflect.apply(original, this, arguments);
          sent(this);
          return value;
        },
    );
  }

  /** What sent the message that an event at a port is about. */
  causeOf(target: object, event: Event): Scheduled | undefined {
    if (event.type !== 'message' || !this.#waiting.has(target)) return undefined;
    if (!this.#causes.has(event)) this.#causes.set(event, this.#waiting.get(target)!.shift());
    return this.#causes.get(event);
  }

  /** A port that takes nothing out, because it lives elsewhere or nobody listens, is given up. */
  #sent(port: MessagePort): void {
    const partner = this.#partners.get(port);
    if (partner === undefined) return;
    const waiting = this.#waiting.get(partner) ?? [];
    if (waiting.length === 0) this.#waiting.set(partner, waiting);
    waiting.push(this.entries.schedule('message', undefined));
    if (waiting.length <= MOST_WAITING) return;
    this.#partners.delete(port);
    this.#waiting.delete(partner);
  }
}

/** Requests that were sent, each with what asked for it. */
export class SentRequests {
  readonly #ofObject = new WeakMap<object, Scheduled>();

  /**
   * @param onRequest is called for each, with its address
   * @param onResume is called when a promise about an answer has been fulfilled
   */
  constructor(
    private readonly entries: Entries,
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

  #schedule(url: string): Scheduled | undefined {
    this.onRequest(url);
    return this.entries.schedule('request', undefined, { url: plainAddress(url) });
  }

  #wrapFetch(): void {
    const schedule = this.#schedule.bind(this);
    const settle = this.#settle.bind(this);
    const scheduleOf = this.#ofObject;
    replaceMethod(
      globalThis,
      'fetch',
      (original) =>
        function (this: unknown, input: unknown) {
          const promise = Reflect.apply(original, this, arguments) as Promise<object>;
          const scheduled = schedule(input instanceof Request ? input.url : String(input));
          return scheduled === undefined ? promise : settle(promise, scheduled);
        },
    );
    for (const name of ['json', 'text', 'arrayBuffer', 'blob', 'formData']) {
      replaceMethod(
        Response.prototype,
        name,
        (original) =>
          function (this: object) {
            const promise = Reflect.apply(original, this, arguments) as Promise<object>;
            const scheduled = scheduleOf.get(this);
            return scheduled === undefined ? promise : settle(promise, scheduled);
          },
      );
    }
  }

  /** A promise like the given one; what comes of it is known to come of the request. */
  #settle(promise: Promise<object>, schedule: Scheduled): Promise<object> {
    const resume = (value?: object) =>
      guarded(() => {
        if (value instanceof Response) this.#ofObject.set(value, schedule);
        this.entries.resume({ type: 'resolve-promise', invoker: `fetch ${schedule.url ?? ''}`, schedule });
        this.onResume();
      });
    return promise.then(
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
    const urls = new WeakMap<object, string>();
    replaceMethod(
      XMLHttpRequest.prototype,
      'open',
      (original) =>
        function (this: object, ...args: unknown[]) {
          urls.set(this, String(args[1]));
          return Reflect.apply(original, this, args);
        },
    );
    replaceMethod(
      XMLHttpRequest.prototype,
      'send',
      (original) =>
        function (this: object) {
          const scheduled = schedule(urls.get(this) ?? '');
          if (scheduled !== undefined) scheduleOf.set(this, scheduled);
          return Reflect.apply(original, this, arguments);
        },
    );
  }
}
