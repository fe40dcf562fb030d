import type { ToSender, WorkerGreeting } from '../../messages';
import { MAIN_THREAD, WORKER_SCRIPT_PATH } from '@nettle-patch/core';
import { replaceClass } from './replace';

type WorkerBegan = Extract<ToSender, { type: 'worker-began' }>;

interface Poster {
  postMessage(message: unknown, transfer: Transferable[]): void;
}

/**
 * Replaces the classes of workers, so that each worker of the app, its service worker too, gets a port to the recorder
 * with its first message. The scripts of this origin have got a recorder that takes it from the proxy; one that the
 * page has made itself is sent there for it. A script from a data address has an origin of its own and is left alone.
 * @param secret shows the proxy that the recorder asks
 * @param tell is called with each worker that begins to run
 */
export function wrapWorkers(secret: string, tell: (began: WorkerBegan) => void): void {
  let threads: number = MAIN_THREAD;

  const greet = (worker: Poster, kind: string, url: URL, name?: string): void => {
    const thread = ++threads;
    const { port1, port2 } = new MessageChannel();
    worker.postMessage({ nettlePatch: 'worker-recorder', thread } satisfies WorkerGreeting, [port2]);
    const file = url.protocol === 'blob:' ? 'blob' : url.pathname.split('/').pop();
    tell({ type: 'worker-began', thread, name: `${kind}: ${name || file || 'unnamed'}`, port: port1 });
  };

  const withRecorder = (url: URL, { name = '', type }: WorkerOptions): string | undefined => {
    try {
      const asked = new URLSearchParams({ secret, name, type: `${type}` });
      const code = textOf('POST', `${WORKER_SCRIPT_PATH}?${asked}`, textOf('GET', url.href));
      return URL.createObjectURL(new Blob([code], { type: 'text/javascript' }));
    } catch {
      return undefined;
    }
  };

  for (const kind of ['Worker', 'SharedWorker'] as const) {
    replaceClass(kind, (original, [given, ...rest], newTarget) => {
      const url = new URL(String(given), document.baseURI);
      const [options] = rest as [WorkerOptions | string | undefined];
      const named = typeof options === 'string' ? { name: options } : (options ?? {});
      const isOwnText =
        url.protocol === 'blob:' && kind === 'Worker' && (given === url.href || given instanceof URL);
      const blob = isOwnText ? withRecorder(url, named) : undefined;
      const worker = Reflect.construct(original, [blob ?? given, ...rest], newTarget) as
        Worker | SharedWorker;
      if (blob !== undefined) URL.revokeObjectURL(blob);
      if (blob !== undefined || (url.protocol.startsWith('http') && url.origin === location.origin)) {
        const isShared = 'port' in worker;
        greet(isShared ? worker.port : worker, isShared ? 'shared worker' : 'worker', url, named.name);
      }
      return worker;
    });
  }

  void serviceWorker().then((active) => {
    if (active) greet(active, 'service worker', new URL(active.scriptURL));
  });
}

/** The worker behind this page's requests, once there is one; a page in a sandbox may not ask. */
async function serviceWorker(): Promise<ServiceWorker | null> {
  try {
    return (await navigator.serviceWorker.ready).active;
  } catch {
    return null;
  }
}

/** What an address answers, at once: a worker must be there when its constructor returns. */
function textOf(method: string, url: string, body?: string): string {
  const request = new XMLHttpRequest();
  request.open(method, url, false);
  request.send(body);
  if (request.status !== 200) throw new Error(url);
  return request.responseText;
}
