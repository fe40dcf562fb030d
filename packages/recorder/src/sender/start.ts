import type { FromSender, ToSender } from '../messages';
import { measureClockStep } from './clock-step';
import { Sender } from './sender';

const WATCH_EVERY_MS = 100;

/** The part of a worker's global scope that is used here. */
interface WorkerScope {
  postMessage(message: FromSender, transfer?: Transferable[]): void;
  addEventListener(type: 'message', listener: (event: MessageEvent<ToSender>) => void): void;
  addEventListener(type: 'error' | 'unhandledrejection', listener: (event: Event) => void): void;
}

/** Runs the sender in a worker: takes batches from the page and commands from the server. */
export function startSender(): void {
  const scope = globalThis as unknown as WorkerScope;
  // An error that nobody takes here would be reported to the page, and so to the app.
  for (const type of ['error', 'unhandledrejection'] as const) {
    scope.addEventListener(type, (event) => event.preventDefault());
  }
  measureClockStep();
  const sender = new Sender((message, transfer) => scope.postMessage(message, transfer));
  setInterval(() => sender.watch(), WATCH_EVERY_MS);
  scope.addEventListener('message', (event) => sender.take(event.data));
}
