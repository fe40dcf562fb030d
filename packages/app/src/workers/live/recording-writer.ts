import {
  RecordingReceiver,
  RefusedRecordingError,
  readHeader,
  type BatchFrame,
  type Header,
  type RecordingSink,
  type ReceiverEvents,
  type Row,
  type ScriptOrigin,
} from '@nettle-patch/core';
import { StoreFullError, keptFrom, type RecordingStore } from '../../store/recording-store';
import type { StoredRecording } from '../../store/database';
import type { RecordingName } from './live-state';
import { LiveSummary } from './live-summary';

export interface RecordingWriterEvents extends ReceiverEvents, ScriptOrigin {
  onChange(): void;
}

/** What is known of a recording before it begins, or by this computer alone. */
export interface AboutRecording extends RecordingName {
  /** How much slower the device is than this computer, where that was measured. */
  readonly speed?: number | undefined;
}

const encoder = new TextEncoder();

/** Writes one recording to the store while it streams in, and sums it up. */
export class RecordingWriter implements RecordingSink {
  readonly summary: LiveSummary;
  bytes: number;
  hasBegun: boolean;
  readonly #receiver: RecordingReceiver;

  /**
   * @param kept the shelf's entry, when this goes on with a recording that is there already
   */
  constructor(
    readonly recordingId: string,
    private readonly store: RecordingStore,
    private readonly events: RecordingWriterEvents,
    kept?: StoredRecording,
    private readonly about: AboutRecording = {},
  ) {
    this.hasBegun = kept !== undefined;
    this.summary = new LiveSummary(kept?.lengthMs);
    this.bytes = kept?.bytes ?? 0;
    this.#receiver = new RecordingReceiver(
      this,
      events,
      events,
      (work, afterMs) => {
        const timer = setTimeout(work, afterMs);
        return () => clearTimeout(timer);
      },
      kept?.nextBatch,
    );
  }

  /** Whether its last batch has come. */
  get isClosed(): boolean {
    return this.#receiver.isClosed;
  }

  take(frame: BatchFrame): void {
    this.#receiver.take(frame);
  }

  /** Ends a recording whose target will send no more. */
  end(reason: 'target-left' | 'interrupted'): void {
    this.#receiver.end(reason);
  }

  get lastMs(): number {
    return this.summary.lastMs;
  }

  async append(given: readonly string[], nextBatch?: number): Promise<void> {
    for (const line of given) this.#summarise(line);
    const lines = await this.#begun(given);
    const bytes = encoder.encode(lines.map((line) => `${line}\n`).join(''));
    const { lastMs: lengthMs } = this;
    if (bytes.length > 0) await this.store.append(this.recordingId, [bytes], { lengthMs, nextBatch });
    this.bytes += bytes.length;
    this.events.onChange();
  }

  pieces(): Promise<Iterable<Uint8Array>> {
    return this.store.pieces(this.recordingId);
  }

  finish(): Promise<void> {
    return this.store.finish(this.recordingId);
  }

  isFull(error: unknown): boolean {
    return error instanceof StoreFullError;
  }

  /** Makes the shelf's entry of the first line; the lines, with what was known beforehand or by this computer alone. */
  async #begun(lines: readonly string[]): Promise<readonly string[]> {
    if (this.hasBegun || lines.length === 0) return lines;
    const header = this.#completed(readHeader(JSON.parse(lines[0]!)));
    if (header.id !== this.recordingId)
      throw new RefusedRecordingError('unreadable', 'its header is that of another recording');
    await this.store.create({ ...keptFrom(header, 'recording'), tags: [...(this.about.tags ?? [])] });
    this.hasBegun = true;
    return [JSON.stringify(header), ...lines.slice(1)];
  }

  #completed(header: Header): Header {
    const { speed, title = '' } = this.about;
    return {
      ...header,
      ...(speed === undefined ? {} : { speed }),
      ...(title === '' ? {} : { title }),
    };
  }

  /** A line that cannot be understood is kept all the same; opening the recording tells of it. */
  #summarise(line: string): void {
    try {
      const row = JSON.parse(line) as Row | { kind: 'header' };
      if (row.kind !== 'header') this.summary.take(row);
    } catch (error) {
      if (!(error instanceof SyntaxError || error instanceof RangeError || error instanceof TypeError))
        throw error;
    }
  }
}
