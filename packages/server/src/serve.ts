import { InterfaceServer } from './interface-server';
import { LoopbackGate } from './gate/gate';
import { newSecret } from './gate/guard';
import { Lan } from './lan/lan';
import { LOOPBACK, listenNear } from './listen';
import { Phones } from './phone/phones';
import { ProxyServer } from './proxy-server';
import { ProxyControl } from './proxy/proxy-control';
import { Relay } from './relay/relay';
import { originsOfApp } from './sources/origins-of-app';
import { DEFAULT_SETTINGS, type ProxySettings } from '@nettle-patch/core';

export interface ServeOptions {
  /** Address of the app's own server. */
  readonly target: string;
  readonly port: number;
  readonly proxyPort: number;
  /** Lets devices of the room join, at an address of this computer or, if true, at the likeliest. */
  readonly lan?: string | true;
  /** How the proxy treats pages at first; what is not given is as usual. */
  readonly settings?: Partial<ProxySettings>;
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
  readonly moved: readonly { readonly what: string; readonly from: number; readonly to: number }[];
  close(): void;
}

/** Thrown when an address given on the command line cannot be used. */
export class BadAddressError extends Error {
  override readonly name = 'BadAddressError';
}

/**
 * The origin of an address as people type it: "localhost:3000" is taken for "http://localhost:3000".
 * @throws BadAddressError
 */
export function targetOriginOf(address: string): string {
  const text = /^[a-z]+:\/\//i.test(address) ? address : `http://${address}`;
  const url = URL.canParse(text) ? new URL(text) : undefined;
  if (url === undefined || !['http:', 'https:'].includes(url.protocol) || url.hostname === '') {
    throw new BadAddressError(
      `"${address}" is no address of a web server. Expected something like http://localhost:3000.`,
    );
  }
  return url.origin;
}

/** Starts the interface and the proxy, each on an origin of its own. */
export async function serve(options: ServeOptions): Promise<Running> {
  const targetOrigin = targetOriginOf(options.target);
  const secret = newSecret();
  const ports = { interface: 0, proxy: 0 };
  const gate = new LoopbackGate(() => ports.proxy);
  const control = new ProxyControl({ ...DEFAULT_SETTINGS, ...options.settings });
  const relay = new Relay(
    () => `${gate.origin}/`,
    () => control.settings.steps === 'texts',
  );
  const proxy = new ProxyServer({ targetOrigin, relay, control, gate });
  const lan = new Lan({
    targetOrigin,
    relay,
    control,
    port: () => (options.proxyPort === 0 ? 0 : ports.proxy + 1),
  });
  const phones = new Phones(() => gate.origin);
  const tool = new InterfaceServer({
    gate: new LoopbackGate(() => ports.interface, secret),
    relay,
    origins: () =>
      [gate.origin, lan.origin, ...originsOfApp(targetOrigin)].filter((origin) => origin !== undefined),
    targetOrigin,
    control,
    phones,
    lan,
  });

  const moved: { what: string; from: number; to: number }[] = [];
  const listen = async (what: string, key: keyof typeof ports, server: typeof proxy.http, wanted: number) => {
    const { port, takenPort } = await listenNear(server, wanted);
    ports[key] = port;
    if (takenPort !== undefined) moved.push({ what, from: takenPort, to: port });
  };
  await listen('the tool', 'interface', tool.http, options.port);
  await listen('the proxy', 'proxy', proxy.http, options.proxyPort);

  if (options.lan !== undefined) await lan.open(options.lan === true ? undefined : options.lan);

  const interfaceOrigin = `http://${LOOPBACK}:${ports.interface}`;
  return {
    address: `${interfaceOrigin}/#secret=${secret}`,
    interfaceOrigin,
    proxyOrigin: gate.origin,
    lan,
    secret,
    moved,
    close() {
      phones.stop();
      lan.close();
      tool.close();
      proxy.close();
      control.rewriter.close();
    },
  };
}
