import type { FromSender, ToSender } from '../messages';
import { Sender } from './sender';

/** The part of a worker's global scope that is used here. */
interface WorkerScope {
  postMessage(message: FromSender): void;
  addEventListener(type: 'message', listener: (event: MessageEvent<ToSender>) => void): void;
}

/** Runs the sender in a worker: takes batches from the page and commands from the server. */
export function startSender(): void {
  const scope = globalThis as unknown as WorkerScope;
  const sender = new Sender((command) => scope.postMessage({ type: 'command', command }));
  scope.addEventListener('message', (event) => sender.take(event.data));
}
