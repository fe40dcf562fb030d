import type { ServedApp } from '@nettle-patch/core';
import { LoopbackGate } from '../gate/access-policy';
import { listenNear } from '../listen';
import { ProxyServer } from '../proxy-server';
import type { ProxyControl } from '../proxy/proxy-control';
import type { Relay } from '../relay/relay';
import type { Origins } from '../sources/fetch-script';
import { originsOfApp } from '../sources/origins-of-app';
import type { PortMemory } from './port-memory';

export interface AppsOptions {
  readonly relay: Relay;
  readonly control: ProxyControl;
  readonly ports: PortMemory;
  /** Port from which on apps get theirs; 0 gives each any that is free. */
  readonly firstPort: () => number;
}

/** Where an app listens, and what stood in the way of another port. */
export interface AppListening extends ServedApp {
  readonly takenPort?: number;
  /** The app that had this port before, and has left what it keeps in browsers there. */
  readonly earlier?: string;
}

/** Apps beyond these would be a mistake. */
const MAX_APPS = 20;

/** Thrown when no further app can be stood in front of. */
export class TooManyAppsError extends Error {
  override readonly name = 'TooManyAppsError';
}

/** Thrown when something is to be done with an app and there is none. */
export class NoAppError extends Error {
  override readonly name = 'NoAppError';
}

interface Served extends ServedApp {
  readonly server: ProxyServer;
}

/** The apps the tool stands in front of, each opened at an origin of its own. */
export class Apps {
  readonly #served: Served[] = [];

  constructor(private readonly options: AppsOptions) {}

  get list(): readonly ServedApp[] {
    return this.#served.map(({ target, url }) => ({ target, url }));
  }

  /** The app that an address belongs to, whether it is that of the app's own server or that it is opened at. */
  find(address: string): ServedApp | undefined {
    if (!URL.canParse(address)) return undefined;
    const { origin } = new URL(address);
    return this.list.find((app) => originsOf(app).includes(origin));
  }

  /** Under which origins the script at an address is found. */
  originsFor(address: string): Origins | undefined {
    const app = this.find(address);
    return app && { targetOrigin: app.target, proxyOrigin: new URL(address).origin };
  }

  /**
   * Origin of the server of the app that an address belongs to, or of the first app.
   * @throws NoAppError where none is served
   */
  targetFor(address: string | undefined): string {
    const app = (address === undefined ? undefined : this.find(address)) ?? this.#served[0];
    if (app === undefined) throw new NoAppError('Choose an app first, in the Record view.');
    return app.target;
  }

  /**
   * Stands in front of an app; one that is served already stays where it is.
   * @param targetOrigin of the app's own server
   * @param wantedPort where it is to be opened; its usual one if none is given
   * @throws TooManyAppsError
   */
  async add(targetOrigin: string, wantedPort?: number): Promise<AppListening> {
    const known = this.find(targetOrigin);
    if (known !== undefined) return known;
    if (this.#served.length >= MAX_APPS)
      throw new TooManyAppsError(
        `No more than ${MAX_APPS} apps at once. Stop standing in front of one first.`,
      );
    const { relay, control, ports } = this.options;
    let port = 0;
    const gate = new LoopbackGate(() => port);
    const server = new ProxyServer({ targetOrigin, relay, control, gate });
    const listening = await listenNear(server.http, wantedPort ?? (await this.#usualPort(targetOrigin)));
    ({ port } = listening);
    const app = { target: targetOrigin, url: `${gate.origin}/` };
    this.#served.push({ ...app, server });
    relay.tellTargets();
    const owner = await ports.ownerOf(port);
    const isAnothers = owner !== undefined && owner !== nameOf(targetOrigin);
    if (this.options.firstPort() !== 0) await ports.keep(nameOf(targetOrigin), port);
    return {
      ...app,
      ...(listening.takenPort === undefined ? {} : { takenPort: listening.takenPort }),
      ...(isAnothers ? { earlier: owner } : {}),
    };
  }

  /** Stands in front of an app no longer; its pages lose their connection. @returns whether it was served */
  remove(targetOrigin: string): boolean {
    const at = this.#served.findIndex(({ target }) => target === targetOrigin);
    if (at < 0) return false;
    for (const { server } of this.#served.splice(at, 1)) server.close();
    this.options.relay.tellTargets();
    return true;
  }

  close(): void {
    for (const { server } of this.#served) server.close();
  }

  async #usualPort(targetOrigin: string): Promise<number> {
    const { ports, firstPort } = this.options;
    const first = firstPort();
    if (first === 0) return 0;
    return (await ports.portOf(nameOf(targetOrigin))) ?? ports.freeFrom(first);
  }
}

/** By which an app is known, whichever of this computer's names was typed. */
function nameOf(targetOrigin: string): string {
  return originsOfApp(targetOrigin)[0]!;
}

function originsOf({ target, url }: ServedApp): string[] {
  return [...originsOfApp(new URL(url).origin), ...originsOfApp(target)];
}
