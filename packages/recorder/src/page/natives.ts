/**
 * The engine's own functions as they were before any script of the app ran. The app may put others in their place: it is
 * not to see the recorder use them, and the recorder is not to be misled by them.
 */
export const { apply, construct, getOwnPropertyDescriptor } = Reflect;
export const { PerformanceObserver } = globalThis;
export const { setTimeout, setInterval, clearInterval, requestAnimationFrame, cancelAnimationFrame } =
  globalThis;
export const now = performance.now.bind(performance);

const { addEventListener, removeEventListener } = EventTarget.prototype;
const { postMessage } = MessagePort.prototype;
const { then: promiseThen } = Promise.prototype;

type Listener = (event: never) => void;

export function listen(target: EventTarget, type: string, listener: Listener, options?: object): void {
  apply(addEventListener, target, [type, listener, options]);
}

export function stopListening(target: EventTarget, type: string, listener: Listener, options?: object): void {
  apply(removeEventListener, target, [type, listener, options]);
}

/** Sends through a port, to what listens at its other end. */
export function send(port: MessagePort, message?: unknown, transfer: Transferable[] = []): void {
  apply(postMessage, port, [message, transfer]);
}

/** `promise.then` of the engine. */
export function follow<T>(
  promise: Promise<T>,
  fulfilled: (value: T) => T,
  rejected: (error: unknown) => never,
): Promise<T> {
  return apply(promiseThen, promise, [fulfilled, rejected]) as Promise<T>;
}
