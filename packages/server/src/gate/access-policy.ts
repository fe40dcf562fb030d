import type { IncomingMessage } from 'node:http';
import { hostsAt, newSecret, sameSecret } from './guard';

/** Whoever has been let in. */
export interface Client {
  /** Id of the device; null for this computer. */
  readonly device: string | null;
}

/** Whom one of the server's addresses is open to. */
export interface AccessPolicy {
  /** Hosts a request may name. */
  readonly hosts: readonly string[];
  /** Origin under which pages are opened here. */
  readonly origin: string;
  /** The secret that pages of this request show when they connect; undefined where nobody known asks. */
  secretFor(request: IncomingMessage): string | undefined;
  /** Who has a secret; undefined where nobody does. */
  visitorWith(secret: string | undefined): Client | undefined;
}

/** Open to this computer, and to nobody else, as only it can reach the address. */
export class LoopbackGate implements AccessPolicy {
  readonly #secret: string;

  /** @param port is known once the server listens */
  constructor(
    private readonly port: () => number,
    secret = newSecret(),
  ) {
    this.#secret = secret;
  }

  get hosts(): readonly string[] {
    return hostsAt(this.port());
  }

  get origin(): string {
    return `http://localhost:${this.port()}`;
  }

  secretFor(): string {
    return this.#secret;
  }

  visitorWith(secret: string | undefined): Client | undefined {
    return sameSecret(secret, this.#secret) ? { device: null } : undefined;
  }
}
