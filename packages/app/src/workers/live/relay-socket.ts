import { CLOSE_WRONG_SECRET, INTERFACE_SOCKET_PATH, SUBPROTOCOL, type Command } from '@nettle-patch/core';
import type { ConnectionState } from './live-state';

const RETRY_MS = 1000;

export interface RelaySocketEvents {
  onState(state: ConnectionState): void;
  onMessage(text: string): void;
  /** A whole file was sent to the server, for the shelf. */
  onFile(file: Blob): void;
}

/** The connection to the server. It is made anew whenever it is lost, except when the secret is wrong. */
export class RelaySocket {
  #socket: WebSocket | undefined;

  constructor(
    private readonly origin: string,
    private readonly secret: string,
    private readonly events: RelaySocketEvents,
  ) {}

  connect(): void {
    const socket = new WebSocket(this.origin.replace(/^http/, 'ws') + INTERFACE_SOCKET_PATH, [
      SUBPROTOCOL,
      this.secret,
    ]);
    this.#socket = socket;
    socket.addEventListener('open', () => this.events.onState('open'));
    socket.addEventListener('message', ({ data }: MessageEvent<string | Blob>) => {
      if (typeof data === 'string') this.events.onMessage(data);
      else this.events.onFile(data);
    });
    socket.addEventListener('close', (event) => {
      if (event.code === CLOSE_WRONG_SECRET) {
        this.events.onState('wrong-secret');
      } else {
        this.events.onState('lost');
        setTimeout(() => this.connect(), RETRY_MS);
      }
    });
  }

  send(command: Command): boolean {
    if (this.#socket?.readyState !== WebSocket.OPEN) return false;
    this.#socket.send(JSON.stringify(command));
    return true;
  }
}
