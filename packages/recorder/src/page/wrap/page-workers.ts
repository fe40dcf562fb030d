import type { ToSender, WorkerGreeting } from '../../messages';
import { MAIN_THREAD } from '@nettle-patch/core';
import { replaceClass } from './replace';

type WorkerBegan = Extract<ToSender, { type: 'worker-began' }>;

/**
 * Replaces the `Worker` class, so that each worker of the app gets a port to the recorder with its first message.
 * Only scripts of this origin come through the proxy and have a recorder that takes it.
 * @param tell is called with each worker that begins to run
 */
export function wrapWorkers(tell: (began: WorkerBegan) => void): void {
  let threads: number = MAIN_THREAD;
  replaceClass('Worker', (original, args, newTarget) => {
    const worker = Reflect.construct(original, args, newTarget) as Worker;
    const url = new URL(String(args[0]), document.baseURI);
    if (url.origin !== location.origin || !url.protocol.startsWith('http')) return worker;
    const thread = ++threads;
    const { port1, port2 } = new MessageChannel();
    worker.postMessage({ nettlePatch: 'worker-recorder', thread } satisfies WorkerGreeting, [port2]);
    const { name } = (args[1] ?? {}) as WorkerOptions;
    const file = url.pathname.split('/').pop();
    tell({ type: 'worker-began', thread, name: `worker: ${name || file || 'unnamed'}`, port: port1 });
    return worker;
  });
}
