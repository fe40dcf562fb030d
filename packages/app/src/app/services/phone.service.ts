import { Injectable, inject, signal } from '@angular/core';
import type { PhoneFault } from '@nettle-patch/core';
import { ApiService } from './api.service';

/** How the simulated phone behaves. */
export interface PhoneChoice {
  readonly hz: 60 | 120;
  /** Its faults that are mended. */
  readonly mended: readonly PhoneFault[];
}

/** The simulated phone, which the server starts and which then joins by itself. */
@Injectable({ providedIn: 'root' })
export class PhoneService {
  readonly #api = inject(ApiService);
  /** Why it could not be started or stopped; empty when it could. */
  readonly problem = signal('');

  start(choice: PhoneChoice): Promise<void> {
    return this.#ask('POST', choice);
  }

  stop(): Promise<void> {
    return this.#ask('DELETE');
  }

  async #ask(method: 'POST' | 'DELETE', body?: object): Promise<void> {
    try {
      const answer = await this.#api.ask(method, 'phone', body === undefined ? {} : { body });
      this.problem.set(answer.ok ? '' : `The phone could not be started: ${await answer.text()}`);
    } catch {
      this.problem.set('The phone could not be started: the server is not there. Start it again.');
    }
  }
}
