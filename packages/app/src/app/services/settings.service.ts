import { Injectable, inject, signal } from '@angular/core';
import { DEFAULT_SETTINGS, checked, settingsSchema, type ProxySettings } from '@nettle-patch/core';
import { ApiService } from './api.service';

/** How the proxy treats the pages it passes on: how closely they can be looked at. */
@Injectable({ providedIn: 'root' })
export class SettingsService {
  readonly #api = inject(ApiService);
  readonly settings = signal<ProxySettings>(DEFAULT_SETTINGS);
  /** Why the latest change did not take effect; empty when it did. */
  readonly problem = signal('');

  constructor() {
    void this.#ask('GET');
  }

  /** Changes some of the settings. They hold for pages that are loaded from then on. */
  change(part: Partial<ProxySettings>): void {
    const isModeChosen = part.mode !== undefined || this.settings().isModeChosen;
    void this.#ask('PUT', { ...this.settings(), ...part, isModeChosen });
  }

  async #ask(method: 'GET' | 'PUT', wanted?: ProxySettings): Promise<void> {
    try {
      const answer = await this.#api.ask(method, 'settings', wanted === undefined ? {} : { body: wanted });
      if (answer.ok) this.settings.set(checked(await answer.json(), settingsSchema));
      this.problem.set(answer.ok || method === 'GET' ? '' : `Not changed: ${await answer.text()}`);
    } catch {
      this.problem.set(method === 'GET' ? '' : 'Not changed: the server is not there. Start it again.');
    }
  }
}
