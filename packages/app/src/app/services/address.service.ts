import { Injectable, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router } from '@angular/router';
import { filter, map, startWith } from 'rxjs';

/** Views that look into the recording that is open. */
const ANALYSIS: ReadonlySet<string> = new Set(['stings', 'timeline', 'calls', 'source']);

/** Parameters of the address; null takes one out. */
type Query = Readonly<Record<string, string | number | null>>;

/** Where one is, as the address says. */
@Injectable({ providedIn: 'root' })
export class AddressService {
  readonly #router = inject(Router);
  readonly #url = toSignal(
    this.#router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
      startWith(this.#router.url),
    ),
    { initialValue: '' },
  );
  /** Name of the view, as in the address: "stings". */
  readonly view = computed(() => /^\/([a-z]+)/.exec(this.#url())?.[1] ?? 'record');
  /** Whether the view looks into a recording. */
  readonly analyses = computed(() => ANALYSIS.has(this.view()));
  readonly query = computed(() => {
    const params = this.#router.parseUrl(this.#url()).queryParams as Readonly<Record<string, unknown>>;
    return Object.fromEntries(
      Object.entries(params).filter((entry): entry is [string, string] => typeof entry[1] === 'string'),
    );
  });

  /** Changes that are on their way into the address: a next one would else put it back as it was before them. */
  #pending: { readonly query: Query; readonly replaceUrl: boolean } | undefined;

  /** Changes parameters of the address; null takes one out. */
  change(query: Query, replaceUrl = false): Promise<boolean> {
    const before = this.#pending;
    const pending = {
      query: { ...before?.query, ...query },
      replaceUrl: replaceUrl && (before?.replaceUrl ?? true),
    };
    this.#pending = pending;
    const navigated = this.#router.navigate([], {
      queryParams: pending.query,
      queryParamsHandling: 'merge',
      replaceUrl: pending.replaceUrl,
    });
    return navigated.finally(() => {
      if (this.#pending === pending) this.#pending = undefined;
    });
  }

  /** Goes to another view of a recording, with the lens as it is and some parameters more. */
  go(view: string, id: string, query: Query = {}): Promise<boolean> {
    const queryParams = { ...this.#pending?.query, ...query };
    return this.#router.navigate([`/${view}`, id], { queryParams, queryParamsHandling: 'merge' });
  }
}
