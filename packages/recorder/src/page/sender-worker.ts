import type { ToSender, WorkerGreeting } from '../messages';
import { apply } from './natives';

const { postMessage } = Worker.prototype;

interface TrustedTypes {
  createPolicy(
    name: string,
    rules: { createScriptURL(url: string): string },
  ): { createScriptURL(url: string): unknown };
}

/** A script address that passes where the page demands trusted types. */
export function trustedAddress(url: string, policy: string): string {
  const { trustedTypes } = globalThis as { trustedTypes?: TrustedTypes };
  if (trustedTypes === undefined) return url;
  try {
    return trustedTypes
      .createPolicy(policy, { createScriptURL: (address) => address })
      .createScriptURL(url) as string;
  } catch {
    return url;
  }
}

/**
 * Starts the sender, which is a file of its own and runs as a worker. From another origin, where a worker cannot be
 * started directly, a worker of the page's own origin loads it.
 * @returns undefined where the page allows no worker at all.
 */
export function startSenderWorker(scriptUrl: string): Worker | undefined {
  try {
    const sameOrigin = new URL(scriptUrl).origin === location.origin;
    const address = sameOrigin
      ? scriptUrl
      : URL.createObjectURL(
          new Blob([`importScripts(${JSON.stringify(scriptUrl)})`], { type: 'text/javascript' }),
        );
    return new Worker(trustedAddress(address, 'nettle-patch'), { name: 'nettle-patch sender' });
  } catch {
    return undefined;
  }
}

export function post(
  worker: Worker,
  message: ToSender | WorkerGreeting,
  transfer: Transferable[] = [],
): void {
  apply(postMessage, worker, [message, transfer]);
}
