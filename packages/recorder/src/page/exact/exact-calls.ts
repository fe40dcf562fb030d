import type { Capture } from '../capture/capture';
import type { RecordingSession } from '../session';
import { createCallEventBuffer, type CallChunk, type CallEventBuffer } from './call-event-buffer';

/** Takes the calls of a session: the thread that packs them. */
export type CallSink = (session: RecordingSession, chunk: CallChunk) => void;

/** Calls of rewritten scripts, each with its beginning and its end. */
export class ExactCalls implements Capture {
  readonly name = 'exact-calls';
  /** The ring also takes forced layout, whatever the mode. */
  readonly always = true;
  readonly ring: CallEventBuffer;
  #session: RecordingSession | undefined;

  /** @param available whether scripts come rewritten */
  constructor(
    sink: CallSink,
    readonly available: boolean,
  ) {
    this.ring = createCallEventBuffer((chunk) => {
      if (this.#session !== undefined) sink(this.#session, chunk);
    });
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
