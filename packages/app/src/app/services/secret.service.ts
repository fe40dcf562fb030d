import { Injectable } from '@angular/core';

const KEY = 'nettle-patch-secret';

/** The secret of the server's run, which the address it prints carries behind the "#". */
@Injectable({ providedIn: 'root' })
export class SecretService {
  readonly secret = this.#take();

  /** Takes the secret out of the address, so that it is not passed on with a copied link. */
  #take(): string {
    const given = new URLSearchParams(location.hash.slice(1)).get('secret');
    if (given === null) return localStorage.getItem(KEY) ?? '';
    localStorage.setItem(KEY, given);
    history.replaceState(history.state, '', location.pathname + location.search);
    return given;
  }
}
