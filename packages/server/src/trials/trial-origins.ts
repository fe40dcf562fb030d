import type { Server } from 'node:http';
import { DEFAULT_SETTINGS, TRIAL_PATH, type Trial } from '@nettle-patch/core';
import { LoopbackGate } from '../gate/access-policy';
import { hasOwnHost } from '../gate/guard';
import { serverWithTimeouts } from '../limits/server-with-timeouts';
import { listenNear } from '../listen';
import { ProxyControl } from '../proxy/proxy-control';
import { RecordingProxy } from '../proxy/proxy';
import { TrialPages } from './trial-pages';

/** Stands for trials that belong to no app. */
const NO_APP = '';

/** An origin with the pages of trials, and behind them the app as it is: its scripts are not rewritten there. */
interface TrialOrigin {
  readonly origin: string;
  readonly server: Server;
}

/**
 * The origins trials run at, one for each app: the app stands there whole, so that its modules can be imported as it serves
 * them, whichever way it is recorded elsewhere, and what a trial leaves behind in the browser does not meet the recorded app.
 */
export class TrialOrigins {
  readonly #pages = new TrialPages();
  readonly #origins = new Map<string, Promise<TrialOrigin>>();
  readonly #control = new ProxyControl({ ...DEFAULT_SETTINGS, steps: 'off', isModeChosen: true });

  /**
   * @param targetOrigin of the server of the app; undefined where the trial needs none
   * @returns address of the page of the trial
   * @throws BadTrialError
   */
  async open(trial: Trial, targetOrigin: string | undefined): Promise<URL> {
    const path = this.#pages.add(trial);
    const key = targetOrigin ?? NO_APP;
    let made = this.#origins.get(key);
    if (made === undefined) {
      made = this.#listen(targetOrigin);
      this.#origins.set(key, made);
    }
    return new URL(path, (await made).origin);
  }

  close(): void {
    for (const made of this.#origins.values()) {
      void made.then(({ server }) => {
        server.close();
        server.closeAllConnections();
      });
    }
    this.#control.rewriter.close();
  }

  async #listen(targetOrigin: string | undefined): Promise<TrialOrigin> {
    let port = 0;
    const gate = new LoopbackGate(() => port);
    const proxy =
      targetOrigin === undefined
        ? undefined
        : new RecordingProxy({ targetOrigin, gate, control: this.#control });
    const server = serverWithTimeouts((request, response) => {
      if (!hasOwnHost(request, gate.hosts)) response.writeHead(421).end();
      else if (request.url?.startsWith(TRIAL_PATH)) return this.#pages.answer(request, response);
      else if (proxy === undefined) response.writeHead(404).end('This trial belongs to no app.');
      else proxy.handle(request, response);
      return undefined;
    });
    ({ port } = await listenNear(server, 0));
    return { origin: gate.origin, server };
  }
}
