import { Injectable, computed, effect, inject, signal } from '@angular/core';
import { ShelfService } from './shelf.service';

/** From this share on a person is warned. */
const NEARLY_FULL = 0.8;

/** How much room the browser gives, and how much of it is used (WHATWG Storage). */
@Injectable({ providedIn: 'root' })
export class StorageService {
  readonly #shelf = inject(ShelfService);
  readonly #estimate = signal<{ readonly used: number; readonly quota: number } | undefined>(undefined);
  /** Bytes used and bytes there are; undefined where the browser does not tell. */
  readonly estimate = this.#estimate.asReadonly();
  readonly isNearlyFull = computed(() => {
    const estimate = this.#estimate();
    return estimate !== undefined && estimate.used > estimate.quota * NEARLY_FULL;
  });

  constructor() {
    effect(() => {
      this.#shelf.recordings();
      void this.#look();
    });
  }

  /** Has the browser keep what is on the shelf even when room is short. @returns whether it will */
  async keepForGood(): Promise<boolean> {
    return (await navigator.storage?.persist?.()) ?? false;
  }

  async #look(): Promise<void> {
    try {
      const { usage, quota } = await navigator.storage.estimate();
      if (usage !== undefined && quota !== undefined && quota > 0) this.#estimate.set({ used: usage, quota });
    } catch {
      this.#estimate.set(undefined);
    }
  }
}
