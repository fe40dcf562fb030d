import { listen, send } from './natives';
import { markInternal } from './wrap/internal';

/** Calls back in a task of its own, as soon as the present one is done. */
export class NextTask {
  readonly #channel = new MessageChannel();
  #waiting: (() => void)[] = [];

  constructor() {
    const { port1 } = this.#channel;
    listen(
      port1,
      'message',
      markInternal(() => this.#waiting.shift()?.()),
    );
    port1.start();
  }

  call(callback: () => void): void {
    this.#waiting.push(callback);
    send(this.#channel.port2);
  }

  close(): void {
    this.#waiting = [];
    this.#channel.port1.close();
  }
}
