import type { Command } from '@nettle-patch/core';

/** A web socket that remembers what was sent and is opened and closed by the test. */
export class FakeSocket extends EventTarget {
  static readonly OPEN = 1;
  static readonly all: FakeSocket[] = [];
  readonly sent: string[] = [];
  readyState = 0;
  isClosing = false;

  constructor(
    readonly url: string,
    readonly protocols: readonly string[],
  ) {
    super();
    FakeSocket.all.push(this);
  }

  send(text: string): void {
    this.sent.push(text);
  }

  close(): void {
    this.isClosing = true;
  }

  open(): void {
    this.readyState = FakeSocket.OPEN;
    this.dispatchEvent(new Event('open'));
  }

  hear(command: Partial<Command>): void {
    this.dispatchEvent(new MessageEvent('message', { data: JSON.stringify(command) }));
  }

  end(code: number): void {
    this.readyState = 3;
    this.dispatchEvent(Object.assign(new Event('close'), { code }));
  }
}
