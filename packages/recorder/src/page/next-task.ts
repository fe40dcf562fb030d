import { ours } from './wrap/ours';

/** Calls back in a task of its own, as soon as the present one is done. */
export class NextTask {
  readonly #channel = new MessageChannel();
  #waiting: (() => void)[] = [];

  constructor() {
    this.#channel.port1.onmessage = ours(() => this.#waiting.shift()?.());
  }

  call(callback: () => void): void {
    this.#waiting.push(callback);
    this.#channel.port2.postMessage(null);
  }

  close(): void {
    this.#waiting = [];
    this.#channel.port1.close();
  }
}
