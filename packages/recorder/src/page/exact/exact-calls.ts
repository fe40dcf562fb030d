import { ENTER, LEAVE, LEAVE_EXPRESSION, REGISTER } from '@nettle-patch/core';
import type { Capture } from '../capture/capture';
import type { RecordingSession } from '../session';
import { createCallRing, type CallChunk, type CallRing } from './call-ring';

/** Where exact calls go to: the thread that packs them. */
export interface CallSink {
  register(firstId: number, told: string): void;
  calls(session: RecordingSession, chunk: CallChunk): void;
}

/** Calls of rewritten scripts, each with its beginning and its end. */
export class ExactCalls implements Capture {
  readonly name = 'exact-calls';
  readonly ring: CallRing;
  #session: RecordingSession | undefined;
  #registered = 0;

  /** @param expected whether the page's scripts are known to come rewritten */
  constructor(
    private readonly sink: CallSink,
    private readonly expected: boolean,
  ) {
    this.ring = createCallRing((chunk) => {
      if (this.#session !== undefined) sink.calls(this.#session, chunk);
    });
  }

  /** The ring also takes forced layout, whatever the mode. */
  readonly always = true;

  /** Whether rewritten scripts have run in this page. */
  get available(): boolean {
    return this.expected || this.#registered > 0;
  }

  /** Provides the functions that rewritten scripts call. */
  install(scope: object): void {
    const register = (firstId: number, told: string) => {
      this.#registered++;
      this.sink.register(firstId, told);
    };
    const provided = {
      [ENTER]: this.ring.enter,
      [LEAVE]: this.ring.leave,
      [LEAVE_EXPRESSION]: this.ring.leave,
      [REGISTER]: register,
    };
    for (const [name, value] of Object.entries(provided)) Object.defineProperty(scope, name, { value });
  }

  start(session: RecordingSession): void {
    this.#session = session;
    this.ring.switch(true);
  }

  collect(): void {
    this.ring.handOver();
  }

  stop(): void {
    this.ring.switch(false);
    this.ring.handOver();
    this.#session = undefined;
  }
}
