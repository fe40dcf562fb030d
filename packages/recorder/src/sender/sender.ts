import {
  CLOSE_WRONG_SECRET,
  writeBatch,
  type Batch,
  type Command,
  type Hello,
  type Row,
  type Target,
} from '@nettle-patch/core';
import type { OutgoingRow, ToSender } from '../messages';
import { UnacknowledgedBatches } from './unacknowledged';

const RETRY_MS = 1000;
const SUBPROTOCOL = 'nettle-patch';

/** Owns the connection to the server, so that it lives while the page's main thread hangs. */
export class Sender {
  readonly #batches = new UnacknowledgedBatches();
  #connection: Extract<ToSender, { type: 'connect' }> | undefined;
  #secret = '';
  #target: Target | undefined;
  #socket: WebSocket | undefined;

  constructor(private readonly onCommand: (command: Command) => void) {}

  take(message: ToSender): void {
    switch (message.type) {
      case 'connect':
        this.#connection = message;
        this.#secret = message.secret;
        this.#connect();
        break;
      case 'target':
        this.#target = message.target;
        this.#sayHello();
        break;
      case 'batch':
        this.#batch(message);
        break;
    }
  }

  #connect(): void {
    const socket = new WebSocket(this.#connection!.socketUrl, [SUBPROTOCOL, this.#secret]);
    this.#socket = socket;
    socket.addEventListener('open', () => {
      this.#sayHello();
      this.#sendAll();
    });
    socket.addEventListener('message', (event: MessageEvent<string>) => this.#command(event.data));
    socket.addEventListener('close', (event) => void this.#reconnect(event.code));
  }

  async #reconnect(code: number): Promise<void> {
    await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    if (code === CLOSE_WRONG_SECRET) await this.#joinAnew();
    this.#connect();
  }

  /** A server started anew has a new secret, which pages of its origin may ask for. */
  async #joinAnew(): Promise<void> {
    try {
      const answer = await fetch(this.#connection!.joinUrl, { cache: 'no-store' });
      if (answer.ok) this.#secret = await answer.text();
    } catch {
      return;
    }
  }

  #command(text: string): void {
    const command = JSON.parse(text) as Command;
    if (command.type === 'acknowledge') this.#batches.acknowledge(command.recordingId, command.sequence ?? 0);
    else if (command.type === 'follow') this.#sendAll();
    else this.onCommand(command);
  }

  #batch(message: Extract<ToSender, { type: 'batch' }>): void {
    const { recordingId, sequence, last } = message;
    const batch: Batch = { type: 'rows', targetId: this.#target!.id, recordingId, sequence, last };
    const lines = toLines([...this.#dropRows(message.rows), ...message.rows]);
    this.#batches.add(batch, lines);
    this.#send(writeBatch(batch, lines));
  }

  #dropRows(rows: readonly OutgoingRow[]): Row[] {
    const count = this.#batches.takeDropped();
    if (count === 0) return [];
    const at = rows.find((row): row is Row & { startMs: number } => 'startMs' in row);
    return [{ kind: 'drop', startMs: at?.startMs ?? 0, count, reason: 'nobody took the rows in time' }];
  }

  #sayHello(): void {
    if (this.#target === undefined) return;
    const hello: Hello = { type: 'hello', target: this.#target };
    this.#send(JSON.stringify(hello));
  }

  #sendAll(): void {
    for (const { batch, lines } of this.#batches.list()) this.#send(writeBatch(batch, lines));
  }

  #send(text: string): void {
    if (this.#socket?.readyState === WebSocket.OPEN) this.#socket.send(text);
  }
}

function toLines(rows: readonly OutgoingRow[]): string {
  return rows.map((row) => `${JSON.stringify(row)}\n`).join('');
}
