import type { WorkerGreeting } from '../../messages';
import { WORKER_SCRIPT_PATH } from '@nettle-patch/core';
import type { Host } from '../host';
import { construct, getOwnPropertyDescriptor, send } from '../natives';
import { post } from '../sender-worker';
import { guarded } from './internal';
import { replaceClass } from './replace';
import { countMessages } from './worker-line';

type Sending = (message: WorkerGreeting, transfer: Transferable[]) => void;

/** A worker's script and options as they were given, where they can be read without the app noticing. */
interface Asked {
  readonly url: URL;
  readonly name: string;
  /** Undefined where it is not known. */
  readonly type: string | undefined;
}

/** @returns undefined where nothing can be known of it, as reading it would be noticed */
function askedOf([given, options]: readonly unknown[]): Asked | undefined {
  const { TrustedScriptURL } = globalThis as { TrustedScriptURL?: typeof URL };
  const isPlain = typeof given === 'string' || given instanceof URL;
  if (!isPlain && !(TrustedScriptURL && given instanceof TrustedScriptURL)) return undefined;
  const url = `${given as string}`;
  if (!URL.canParse(url, document.baseURI)) return undefined;
  const isObject = typeof options === 'object' && options !== null;
  const option = (name: string): unknown => isObject && getOwnPropertyDescriptor(options, name)?.value;
  const [name, type] = [typeof options === 'string' ? options : option('name'), option('type')];
  return {
    url: new URL(url, document.baseURI),
    name: typeof name === 'string' ? name : '',
    type: typeof type === 'string' ? type : isObject && 'type' in options ? undefined : 'classic',
  };
}

/**
 * Replaces the classes of workers, so that each worker of the app, its service worker too, gets a port to the recorder
 * with its first message. The scripts of this origin have got a recorder that takes it from the proxy; one that the
 * page has made itself is sent there for it. A script from a data address has an origin of its own and is left alone.
 * @param secret shows the proxy that the recorder asks
 * @param host gives each its number, and is told of each that begins to run
 */
export function wrapWorkers(
  secret: string,
  { nextNumber, began, running }: Pick<Host, 'nextNumber' | 'began' | 'running'>,
): void {
  const greet = (sendTo: Sending, kind: string, url: URL, name: string): number => {
    const thread = nextNumber();
    const { port1, port2 } = new MessageChannel();
    const recording = running();
    sendTo({ nettlePatch: 'worker-recorder', thread, recording } satisfies WorkerGreeting, [port2]);
    const file = url.protocol === 'blob:' ? 'blob' : url.pathname.split('/').pop();
    began({ type: 'worker-began', thread, name: `${kind}: ${name || file || 'unnamed'}`, port: port1 });
    return thread;
  };

  const withRecorder = ({ url, name, type }: Asked): string | undefined => {
    if (url.protocol !== 'blob:' || type === undefined) return undefined;
    try {
      const asked = new URLSearchParams({ secret, name, type });
      const code = textOf('POST', `${WORKER_SCRIPT_PATH}?${asked}`, textOf('GET', url.href));
      return URL.createObjectURL(new Blob([code], { type: 'text/javascript' }));
    } catch {
      return undefined;
    }
  };

  for (const kind of ['Worker', 'SharedWorker'] as const) {
    replaceClass(kind, (original, args, newTarget) => {
      const asked = guarded(() => askedOf(args));
      const blob = asked && kind === 'Worker' ? withRecorder(asked) : undefined;
      const worker = construct(original, blob ? [blob, ...args.slice(1)] : args, newTarget) as
        Worker | SharedWorker;
      if (blob !== undefined) URL.revokeObjectURL(blob);
      if (asked === undefined) return worker;
      const { url, name } = asked;
      guarded(() => {
        if (blob === undefined && (!url.protocol.startsWith('http') || url.origin !== location.origin))
          return;
        if ('port' in worker) greet((...sent) => send(worker.port, ...sent), 'shared worker', url, name);
        else
          countMessages(
            worker,
            greet((...sent) => post(worker, ...sent), 'worker', url, name),
          );
      });
      return worker;
    });
  }

  void serviceWorker().then((active) => {
    if (active)
      greet((...sent) => active.postMessage(...sent), 'service worker', new URL(active.scriptURL), '');
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
