import type { Capture } from '../capture/capture';
import { now } from '../natives';
import type { RecordingSession } from '../session';
import { sharesMemory } from '../shared-memory';
import type { AboutThread } from '../capture-registry';
import { CallCounts } from './call-counts';
import type { CallEventBuffer } from '../exact/call-event-buffer';
import { closerCalls, type CloserCalls } from './closer-calls';
import { createLookSampler, type LookSampler } from './look-sampler';

/** How often counts are told. */
const COUNT_EVERY_MS = 1000;

/** Takes what fine mode tells of a session. */
export type FineSink = (session: RecordingSession, about: AboutThread, transfer?: Transferable[]) => void;

/** Samples of a millisecond and a line, and how often each function was called, of scripts rewritten for that. */
export class FineSamples implements Capture {
  readonly name = 'fine-samples';
  readonly available = true;
  readonly sampler: LookSampler;
  readonly counts = new CallCounts(() => this.sampler.counts);
  /** Whether another thread takes the samples. */
  readonly #isShared = sharesMemory();
  /** Where a function is looked at closer. */
  #closer: CloserCalls | undefined;
  #session: RecordingSession | undefined;
  #countedMs = 0;

  /** @param place of a function that is to be looked at closer; empty for none */
  constructor(
    private readonly sink: FineSink,
    private readonly place: string,
  ) {
    this.sampler = createLookSampler(
      (samples) => {
        if (this.#session === undefined) return;
        const { timesMs, stacks } = samples;
        sink(this.#session, { type: 'looks', ...samples }, [timesMs.buffer, stacks.buffer]);
      },
      (id) => this.counts.has(id),
      this.#isShared,
    );
  }

  /**
   * Takes note of a script that was rewritten for fine mode.
   * @param ring takes exact calls of what is looked at closer
   * @returns what is told of the script
   */
  register(ring: CallEventBuffer, firstId: number, registration: string, functionCount: number): string {
    this.counts.add(firstId, functionCount);
    if (this.place === '') return registration;
    this.#closer ??= closerCalls(this.sampler, ring, this.place);
    return this.#closer.register(firstId, registration);
  }

  start(session: RecordingSession): void {
    this.#session = session;
    this.#countedMs = session.startUp ? 0 : now();
    if (!session.startUp) this.counts.reset();
    if (this.#isShared) {
      const { calls } = this.sampler;
      this.sink(session, { type: 'open-positions', calls, clockOrigin: performance.timeOrigin });
    }
    this.sampler.switch(true);
  }

  collect(): void {
    this.sampler.handOver();
    if (now() - this.#countedMs >= COUNT_EVERY_MS) this.#count();
  }

  stop(): void {
    this.sampler.switch(false);
    this.#count();
    this.#session = undefined;
  }

  #count(): void {
    const session = this.#session;
    if (session === undefined) return;
    const sinceMs = this.#countedMs;
    this.#countedMs = now();
    const { ids, counts } = this.counts.take();
    if (ids.length === 0) return;
    const untilMs = this.#countedMs;
    this.sink(session, { type: 'counts', sinceMs, untilMs, ids, counts }, [ids.buffer, counts.buffer]);
  }
}
