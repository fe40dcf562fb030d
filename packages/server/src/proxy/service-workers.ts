import type { IncomingMessage } from 'node:http';
import { mayAskForScript } from '../rewriting/script-answer';

/** A page has one, and an app few. */
const MAX = 100;

/** Knows an app's service workers by their scripts, and what they ask for themselves by the address they ask from. */
export class ServiceWorkers {
  readonly #paths = new Set<string>();

  /** Notes a request for the script of one. */
  note({ headers, url = '' }: IncomingMessage): void {
    if (headers['sec-fetch-dest'] === 'serviceworker' && this.#paths.size < MAX) this.#paths.add(url);
  }

  /** Whether one of them asks for a script, to keep it for its pages: they get it without asking here. */
  askForScript(request: IncomingMessage): boolean {
    const { referer = '' } = request.headers;
    if (!mayAskForScript(request) || !URL.canParse(referer)) return false;
    const { pathname, search } = new URL(referer);
    return this.#paths.has(pathname + search);
  }
}
