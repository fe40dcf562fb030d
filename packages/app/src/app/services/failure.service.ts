import { Injectable, inject } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { EMPTY, of, type Observable, mergeMap } from 'rxjs';
import type { Outcome } from '../../workers/analysis/analysis.worker';
import type { Failure } from '../../workers/failure';
import { failureWords } from '../shared/words';

const SHOWN_MS = 12_000;

/** Tells a person of work that could not be done: the one place where failures become words on the screen. */
@Injectable({ providedIn: 'root' })
export class FailureService {
  readonly #snackBar = inject(MatSnackBar);

  /** @param about name of the file it is about */
  tell(failure: Failure, about?: string): void {
    const name = about === undefined ? '' : `${about}: `;
    this.#snackBar.open(name + failureWords(failure), 'Close', { duration: SHOWN_MS });
  }

  /** The value of an outcome; undefined where there is none, which is told. */
  valueOf<T>(outcome: Outcome<T>, about?: string): T | undefined {
    if ('value' in outcome) return outcome.value;
    this.tell(outcome.failure, about);
    return undefined;
  }

  /** The values of outcomes; of those that have none, the failure is told and nothing passed on. */
  values<T>(outcomes: Observable<Outcome<T>>): Observable<T> {
    return outcomes.pipe(
      mergeMap((outcome) => {
        if ('value' in outcome) return of(outcome.value);
        this.tell(outcome.failure);
        return EMPTY;
      }),
    );
  }
}
