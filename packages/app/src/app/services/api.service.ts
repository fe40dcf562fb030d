import { Injectable, inject } from '@angular/core';
import { SecretService } from './secret.service';

export interface ApiRequest {
  readonly body?: object;
  readonly signal?: AbortSignal;
}

/** Asks the server that the tool comes from, showing the secret of its run. */
@Injectable({ providedIn: 'root' })
export class ApiService {
  readonly #secret = inject(SecretService).secret;

  /**
   * @param path under `/api/`
   * @throws TypeError when the server is not there
   */
  ask(
    method: 'GET' | 'POST' | 'PUT' | 'DELETE',
    path: string,
    { body, signal }: ApiRequest = {},
  ): Promise<Response> {
    return fetch(`/api/${path}`, {
      method,
      headers: { authorization: `Bearer ${this.#secret}`, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      ...(signal === undefined ? {} : { signal }),
    });
  }
}
