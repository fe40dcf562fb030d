import { Injectable, computed, effect, inject, untracked } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router } from '@angular/router';
import { failureWords } from '../shared/words';
import { LiveService } from './live.service';

const SHOWN_MS = 15_000;

/** Says when a program has sent a recording, and opens it if that is wanted. */
@Injectable({ providedIn: 'root' })
export class ReceivedService {
  readonly #live = inject(LiveService);
  readonly #snackBar = inject(MatSnackBar);
  readonly #router = inject(Router);
  readonly #received = computed(() => this.#live.state().received, {
    equal: (a, b) => a?.number === b?.number,
  });

  constructor() {
    effect(() => {
      const received = this.#received();
      if (received === undefined) return;
      untracked(() => {
        if ('id' in received) this.#offer(received.id);
        else {
          const words = `A file that was sent here was not kept: ${failureWords(received.failure)}`;
          this.#snackBar.open(words, 'Close', { duration: SHOWN_MS });
        }
      });
    });
  }

  #offer(id: string): void {
    const bar = this.#snackBar.open('A recording was sent here and is on the shelf.', 'Open', {
      duration: SHOWN_MS,
    });
    bar.onAction().subscribe(() => void this.#router.navigate(['/stings', id]));
  }
}
