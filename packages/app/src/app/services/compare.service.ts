import { Injectable, signal } from '@angular/core';
import type { Observable } from 'rxjs';
import type { ComparedRecordings } from '../../workers/analysis/queries/compare-queries';
import type { QueryAnswer, QueryArguments } from '../../workers/analysis/queries/query-table';
import { Comparing } from './comparing';

const BEFORE_KEY = 'nettle-patch before';

/** Two recordings side by side. */
@Injectable({ providedIn: 'root' })
export class CompareService extends Comparing<ComparedRecordings> {
  readonly #before = signal<string | undefined>(sessionStorage.getItem(BEFORE_KEY) ?? undefined);
  /** The recording that the next one is to be held against. */
  readonly before = this.#before.asReadonly();

  /** Has the next recording be held against this one. */
  rememberBefore(id: string | undefined): void {
    this.#before.set(id);
    if (id === undefined) sessionStorage.removeItem(BEFORE_KEY);
    else sessionStorage.setItem(BEFORE_KEY, id);
  }

  compare(beforeId: string, afterId: string): Promise<void> {
    return this.begin(({ remote }, onProgress, settings) =>
      remote.compare(beforeId, afterId, onProgress, settings),
    );
  }

  ask<Name extends 'anatomies' | 'proof'>(
    name: Name,
    ...given: QueryArguments<Name>
  ): Observable<QueryAnswer<Name>> {
    return this.askThread(name, ...given);
  }
}
