import { PAIR_PATH, SIGN_PATH, type LanState } from '@nettle-patch/core';
import { listenNear } from '../listen';
import { ProxyServer } from '../proxy-server';
import type { ProxyControl } from '../proxy/proxy-control';
import type { Relay } from '../relay/relay';
import type { Origins } from '../sources/fetch-script';
import { lanAddresses } from './addresses';
import { Devices } from './devices';
import { LanGate } from './lan-gate';
import { Pairing } from './pairing';

export interface LanOptions {
  /** Origin of the server of the app that is opened first; undefined where there is none. */
  readonly targetOrigin: () => string | undefined;
  readonly relay: Relay;
  readonly control: ProxyControl;
  /** Port that is tried first. */
  readonly port: () => number;
}

/** Thrown when nobody else in the room can be listened to. */
export class NoLanError extends Error {
  override readonly name = 'NoLanError';
}

interface Open {
  readonly targetOrigin: string;
  readonly server: ProxyServer;
  readonly gate: LanGate;
}

/** The address at which devices of the room open the app. Closed unless it is asked for. */
export class Lan {
  readonly devices = new Devices((id) => this.#open?.server.revoke(id));
  #open: Open | undefined;

  constructor(private readonly options: LanOptions) {}

  /** What the interface is told. */
  get state(): LanState {
    if (this.#open === undefined) return { open: false, addresses: lanAddresses() };
    const { code, untilMs } = this.devices.code;
    const { origin } = this.#open.gate;
    const devices = this.devices.list.map(({ id, address, joinedAt }) => ({ id, address, joinedAt }));
    const { targetOrigin: app } = this.#open;
    return { open: true, app, origin, joinUrl: `${origin}${PAIR_PATH}${code}`, code, untilMs, devices };
  }

  /** Origin under which devices open the app; undefined while it is closed. */
  get origin(): string | undefined {
    return this.#open?.gate.origin;
  }

  /**
   * Listens at an address of this computer, the likeliest if none is given.
   * @param app origin of the server of the app that is opened there; the first if none is given
   * @throws NoLanError
   */
  async open(wanted?: string, app = this.options.targetOrigin()): Promise<void> {
    this.close();
    const address = wanted ?? lanAddresses()[0];
    if (address === undefined)
      throw new NoLanError('This computer is in no network that others could reach it by.');
    if (app === undefined)
      throw new NoLanError('Choose an app first: there is none that a device could open.');
    let port = 0;
    const { relay, control } = this.options;
    const gate = new LanGate(this.devices, address, () => port);
    const pairing = new Pairing(this.devices, gate, () => control.settings.steps === 'texts');
    const server = new ProxyServer({
      targetOrigin: app,
      relay,
      control,
      gate,
      extraPaths: [SIGN_PATH],
      handlePairing: (request, response) => pairing.handle(request, response),
    });
    try {
      ({ port } = await listenNear(server.http, this.options.port(), address));
    } catch (error) {
      throw new NoLanError(`${address} cannot be listened at: ${(error as Error).message}`);
    }
    this.#open = { targetOrigin: app, server, gate };
    this.devices.renewCode();
  }

  /** Under which origins a script of the room's app is found. */
  originsFor(address: string): Origins | undefined {
    if (this.#open === undefined || !address.startsWith(`${this.#open.gate.origin}/`)) return undefined;
    return { targetOrigin: this.#open.targetOrigin, proxyOrigin: this.#open.gate.origin };
  }

  /** Closes where an app is opened that is served no longer. */
  closeFor(targetOrigin: string): void {
    if (this.#open?.targetOrigin === targetOrigin) this.close();
  }

  /** A secret holds in the room it was given in: who was let in there is not in the next. */
  close(): void {
    for (const { id } of this.devices.list) this.devices.revoke(id);
    this.#open?.server.close();
    this.#open = undefined;
  }
}
