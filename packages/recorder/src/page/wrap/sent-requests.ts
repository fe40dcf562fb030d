import { plainAddress } from '../address';
import { apply, follow } from '../natives';
import { guarded } from './internal';
import { replaceAccessor, replaceMethod, type AnyFunction, type Replacement } from './replace';
import type { ScriptEntryTracker, Scheduled } from './script-entries';

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
