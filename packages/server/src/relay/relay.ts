import {
  CLOSE_BAD_MESSAGE,
  ProtocolError,
  isBatch,
  parseCommand,
  parseHello,
  readBatch,
  type Command,
  type ListedTarget,
  type ServerMessage,
} from '@nettle-patch/core';
import type { WebSocket } from 'ws';
import type { Visitor } from '../gate/gate';

/** Bytes that may wait for a slow interface before targets are made to hold their rows back. */
const MAX_WAITING_BYTES = 64 * 1024 * 1024;

/**
 * Passes rows from targets to interfaces and commands the other way. Keeps nothing: rows that no interface
 * takes are not acknowledged, so the target holds them.
 */
export class Relay {
  readonly #targets = new Map<WebSocket, ListedTarget>();
  readonly #interfaces = new Set<WebSocket>();

  /** @param proxyUrl address under which the recorded app is opened */
  constructor(private readonly proxyUrl: () => string) {}

  addTarget(socket: WebSocket, visitor: Visitor): void {
    socket.on('message', (data) =>
      this.#guarded(socket, () => this.#fromTarget(socket, visitor, String(data))),
    );
    socket.on('close', () => this.#targetLeft(socket));
    socket.on('error', () => socket.terminate());
  }

  addInterface(socket: WebSocket): void {
    this.#interfaces.add(socket);
    socket.on('message', (data) => this.#guarded(socket, () => this.#command(parseCommand(String(data)))));
    socket.on('close', () => this.#interfaces.delete(socket));
    socket.on('error', () => socket.terminate());
    this.#send(socket, this.#targetsMessage());
  }

  /** @throws ProtocolError when the frame holds no batch of rows. */
  takeRows(frame: string): void {
    readBatch(frame);
    for (const socket of this.#interfaces) {
      if (socket.bufferedAmount < MAX_WAITING_BYTES) socket.send(frame);
    }
  }

  #fromTarget(socket: WebSocket, { device }: Visitor, text: string): void {
    if (isBatch(text)) {
      this.takeRows(text);
      return;
    }
    this.#targets.set(socket, { ...parseHello(text).target, visitor: device });
    this.#tellTargets();
  }

  #targetLeft(socket: WebSocket): void {
    const target = this.#targets.get(socket);
    this.#targets.delete(socket);
    if (target === undefined) return;
    this.#broadcast({ type: 'target-left', targetId: target.id, recordingId: target.recording?.id ?? null });
    this.#tellTargets();
  }

  #command(command: Command): void {
    for (const [socket, target] of this.#targets) {
      if (target.id === command.targetId) socket.send(JSON.stringify(command));
    }
  }

  #guarded(socket: WebSocket, work: () => void): void {
    try {
      work();
    } catch (error) {
      if (!(error instanceof ProtocolError)) throw error;
      socket.close(CLOSE_BAD_MESSAGE, error.message.slice(0, 100));
    }
  }

  #targetsMessage(): ServerMessage {
    return { type: 'targets', targets: [...this.#targets.values()], proxyUrl: this.proxyUrl() };
  }

  #tellTargets(): void {
    this.#broadcast(this.#targetsMessage());
  }

  #broadcast(message: ServerMessage): void {
    for (const socket of this.#interfaces) this.#send(socket, message);
  }

  #send(socket: WebSocket, message: ServerMessage): void {
    socket.send(JSON.stringify(message));
  }
}
