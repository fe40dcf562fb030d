import { Injectable, computed, inject, signal } from '@angular/core';
import { checked, foundAppsSchema, type FoundApp } from '@nettle-patch/core';
import { ApiService } from './api.service';
import { LiveService } from './live.service';

/** The apps the server stands in front of, and those that answer on this computer besides. */
@Injectable({ providedIn: 'root' })
export class AppsService {
  readonly #api = inject(ApiService);
  readonly #live = inject(LiveService);
  readonly #found = signal<readonly FoundApp[]>([]);
  readonly served = computed(() => this.#live.state().apps ?? []);
  /** Apps that answer at the usual ports and are not served. */
  readonly found = computed(() => {
    const targets = new Set(this.served().map(({ target }) => target));
    return this.#found().filter(({ origin }) => !targets.has(origin));
  });
  readonly looking = signal(false);
  /** Why the latest wish was not granted; empty when it was. */
  readonly problem = signal('');

  /** Looks which apps answer now. */
  async look(): Promise<void> {
    this.looking.set(true);
    try {
      const answer = await this.#api.ask('GET', 'apps/found');
      if (answer.ok) this.#found.set(checked(await answer.json(), foundAppsSchema));
    } catch {
      this.#found.set([]);
    } finally {
      this.looking.set(false);
    }
  }

  /** @param address of the app, as a person types it. @returns whether it is served now */
  add(address: string): Promise<boolean> {
    return this.#ask('POST', address);
  }

  /** @param target origin of its own server */
  async remove(target: string): Promise<void> {
    if (await this.#ask('DELETE', target)) await this.look();
  }

  async #ask(method: 'POST' | 'DELETE', address: string): Promise<boolean> {
    try {
      const answer = await this.#api.ask(method, 'apps', { body: { address } });
      this.problem.set(answer.ok ? '' : await answer.text());
      return answer.ok;
    } catch {
      this.problem.set('The server is not there. Start it again.');
      return false;
    }
  }
}
