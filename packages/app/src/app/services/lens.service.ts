import { Injectable, computed, inject } from '@angular/core';
import { LENS_PARAMETERS, coreLens, lensQuery, readLens, type LensState } from '../lens/lens-state';
import { AddressService } from './address.service';

/** The lens that all views of a recording obey. It lives in the address. */
@Injectable({ providedIn: 'root' })
export class LensService {
  readonly #address = inject(AddressService);
  readonly lens = computed(() => readLens(this.#address.query()), {
    equal: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  });
  /** How many times as long a device would take, of which lengths are estimated; 1 for the one that was recorded. */
  readonly slower = computed(() => this.lens().slower);
  readonly core = computed(() => coreLens(this.lens()));
  /** The parameters that make it up, the chosen function, and the lines of calls that are open, for links from one view to another. */
  readonly query = computed(() => {
    const query = this.#address.query();
    const kept = [...LENS_PARAMETERS, 'function', 'rows', 'box'];
    return Object.fromEntries(kept.flatMap((name) => (query[name] ? [[name, query[name]]] : [])));
  });

  /** @param replaceUrl whether going back passes over it, as for each letter of a text */
  change(part: Partial<LensState>, replaceUrl = false): void {
    const isSameTree = Object.keys(part).every((name) => name === 'text' || name === 'slower');
    // Lines and boxes of one tree of calls are none of another.
    const query = { ...(isSameTree ? {} : { rows: null, box: null }), ...lensQuery(part) };
    void this.#address.change(query, replaceUrl);
  }
}
