import type { Router } from 'express';
import { Apps } from './apps/apps';
import { PortMemory } from './apps/port-memory';
import { targetOriginOf } from './apps/target-origin';
import { InterfaceServer } from './interface-server';
import { LoopbackGate } from './gate/access-policy';
import { newSecret } from './gate/guard';
import { Lan } from './lan/lan';
import { LOOPBACK, listenNear } from './listen';
import { Phones } from './phone/phones';
import { ProxyServer } from './proxy-server';
import { ProxyControl } from './proxy/proxy-control';
import { Relay } from './relay/relay';
import { DEFAULT_SETTINGS, type ProxySettings } from '@nettle-patch/core';

/** Something that goes on beside the server, and is asked for through the interface. */
export interface ServedPart {
  /** First part of its path below `/api`. */
  readonly path: string;
  readonly routes: Router;
  stop(): void;
}

export interface ServeOptions {
  /** Address of the app's own server; without one, apps are chosen in the interface. */
  readonly target?: string;
  readonly port: number;
  /** Port the app is opened at; the one it had last, or the next that is no other app's, if none is given. */
  readonly proxyPort?: number;
  /** Where the ports of apps are remembered. */
  readonly ports?: PortMemory;
  /** Lets devices of the room join, at an address of this computer or, if true, at the likeliest. */
  readonly lan?: string | true;
  /** How the proxy treats pages at first; what is not given is as usual. */
  readonly settings?: Partial<ProxySettings>;
  /**
   * What else the interface may ask for.
   * @param targetFor origin of the server of an app, by its address, or of the first app
   * @param targetOf the same, undefined where the address is that of no app that is served
   */
  readonly parts?: (
    targetFor: (app: string | undefined) => string,
    targetOf: (address: string) => string | undefined,
  ) => readonly ServedPart[];
}

/** A port that was taken, and the one used in its place. */
export interface Moved {
  readonly what: string;
  readonly from: number;
  readonly to: number;
}

/** A running server. */
export interface Running {
  /** Address to open, with the secret of this run. */
  readonly address: string;
  readonly interfaceOrigin: string;
  readonly proxyOrigin: string;
  readonly secret: string;
  /** Where devices of the room join. */
  readonly lan: Lan;
  /** Ports that were taken and those used in their place. */
  readonly moved: readonly Moved[];
  /** The app that had the port before, and has left there what it keeps in browsers. */
  readonly earlier?: string;
  close(): void;
}

/** Starts the interface and, on origins of their own, the app and a door for whatever connects by itself. */
export async function serve(options: ServeOptions): Promise<Running> {
  const targetOrigin = options.target === undefined ? undefined : targetOriginOf(options.target);
  const secret = newSecret();
  const ports = { interface: 0, door: 0 };
  const control = new ProxyControl({ ...DEFAULT_SETTINGS, ...options.settings });
  const relay: Relay = new Relay(
    () => apps.list,
    () => ({ words: control.settings.steps === 'texts', byText: control.settings.labels === 'texts' }),
  );
  const isAnywhere = options.proxyPort === 0 || options.port === 0;
  const firstPort = () => (isAnywhere ? 0 : ports.interface + 1);
  const apps = new Apps({ relay, control, ports: options.ports ?? new PortMemory(), firstPort });
  const doorGate = new LoopbackGate(() => ports.door);
  const door = new ProxyServer({ relay, control, gate: doorGate });
  const proxyOrigin = () => new URL(apps.list[0]?.url ?? doorGate.origin).origin;
  const portOf = (origin: string) => Number(new URL(origin).port);
  const lan = new Lan({
    targetOrigin: () => apps.list[0]?.target,
    relay,
    control,
    port: () => (isAnywhere ? 0 : portOf(proxyOrigin()) + 1),
  });
  const phones = new Phones(proxyOrigin);
  const gate = new LoopbackGate(() => ports.interface, secret);
  const parts =
    options.parts?.(
      (app) => apps.targetFor(app),
      (address) => apps.find(address)?.target,
    ) ?? [];
  const more = Object.fromEntries(parts.map(({ path, routes }) => [path, routes]));
  const tool = new InterfaceServer({ gate, relay, apps, control, phones, lan, more });

  const moved: Moved[] = [];
  const listening = await listenNear(tool.http, options.port);
  ports.interface = listening.port;
  if (listening.takenPort !== undefined)
    moved.push({ what: 'the tool', from: listening.takenPort, to: listening.port });
  let earlier: string | undefined;
  if (targetOrigin === undefined) {
    ports.door = (await listenNear(door.http, options.proxyPort ?? firstPort())).port;
  } else {
    const { url, takenPort, ...app } = await apps.add(targetOrigin, options.proxyPort);
    ({ earlier } = app);
    if (takenPort !== undefined) moved.push({ what: 'the proxy', from: takenPort, to: portOf(url) });
  }

  if (options.lan !== undefined) await lan.open(options.lan === true ? undefined : options.lan);

  const interfaceOrigin = `http://${LOOPBACK}:${ports.interface}`;
  return {
    address: `${interfaceOrigin}/#secret=${secret}`,
    interfaceOrigin,
    proxyOrigin: proxyOrigin(),
    lan,
    secret,
    moved,
    ...(earlier === undefined ? {} : { earlier }),
    close() {
      for (const part of parts) part.stop();
      phones.stop();
      lan.close();
      tool.close();
      apps.close();
      door.close();
      control.rewriter.close();
    },
  };
}
