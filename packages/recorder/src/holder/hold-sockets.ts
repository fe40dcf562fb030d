import { SENDER_PATH } from '@nettle-patch/core';
import { trustedAddress } from '../page/sender-worker';

/** Policy of its own, as each may be made once (Trusted Types, section 2.3.4). */
const POLICY = 'nettle-patch-holder';

/** Has a worker that all pages of this origin share keep their web sockets. Where it may not, each page keeps its own. */
export function holdSockets(scriptUrl: string): void {
  try {
    new SharedWorker(
      trustedAddress(new URL(SENDER_PATH, scriptUrl).href, POLICY) as string,
      'nettle-patch holder',
    );
  } catch {
    return;
  }
}
