import { Injectable, inject, signal } from '@angular/core';
import { readLanState, type LanState } from '@nettle-patch/core';
import { ApiService } from './api.service';

const LOOK_EVERY_MS = 2000;

/** Whether devices of the room may join, and which have: what the server does about it. */
@Injectable({ providedIn: 'root' })
export class LanService {
  readonly #api = inject(ApiService);
  readonly #state = signal<LanState>({ open: false, addresses: [] });
  readonly state = this.#state.asReadonly();
  /** Why the latest wish was not granted; empty when it was. */
  readonly problem = signal('');

  async look(): Promise<void> {
    await this.#ask('GET', '');
  }

  /** Looks again and again, as codes and devices change. @returns what ends it */
  watch(): () => void {
    void this.look();
    const timer = setInterval(() => this.state().open && void this.look(), LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }

  /**
   * @param address of this computer; the likeliest if none is given
   * @param app origin of the server of the app that is opened; the first if none is given
   */
  open(address?: string, app?: string): Promise<void> {
    return this.#ask('POST', '', {
      ...(address === undefined ? {} : { address }),
      ...(app === undefined ? {} : { app }),
    });
  }

  close(): Promise<void> {
    return this.#ask('DELETE', '');
  }

  revoke(device: string): Promise<void> {
    return this.#ask('DELETE', `/devices/${encodeURIComponent(device)}`);
  }

  async #ask(method: 'GET' | 'POST' | 'DELETE', path: string, body?: object): Promise<void> {
    try {
      const answer = await this.#api.ask(method, `lan${path}`, body === undefined ? {} : { body });
      if (answer.ok) this.#state.set(readLanState(await answer.json()));
      if (method !== 'GET') this.problem.set(answer.ok ? '' : await answer.text());
    } catch {
      if (method !== 'GET') this.problem.set('The server is not there. Start it again.');
    }
  }
}
