import {
  BatchOrder,
  MISSING_BATCH_MS,
  RefusedRecordingError,
  RecordingBuilder,
  RecordingDecoder,
  uninstrumentedRows,
  lostBatches,
  readHeader,
  resolveFunctions,
  sourcesToFetch,
  type Batch,
  type Header,
  type Uninstrumented,
  type Row,
  type RowOfKind,
  type ScriptText,
} from '@nettle-patch/core';
import { StoreFullError, keptFrom, type RecordingStore } from '../../store/recording-store';
import type { StoredRecording } from '../../store/database';
import { LiveSummary } from './live-summary';

interface Pending {
  readonly batch: Batch;
  readonly lines: readonly string[];
}

export interface RecordingWriterEvents {
  /** All batches up to this one are on the disk. */
  onKept(sequence: number): void;
  onChange(): void;
  /** The recording is whole on the disk. @param reason of its end row */
  onEnd(reason: string): void;
  /** Nothing more is written. @param kept whether what came before is whole on the disk, with an end */
  onError(error: Error, kept: boolean): void;
  fetchScript(url: string): Promise<ScriptText>;
  /** Scripts that were not rewritten in exact mode. */
  leftAlone(): Promise<Uninstrumented[]>;
}

const encoder = new TextEncoder();

/** Writes one recording to the store while it streams in, and sums it up. */
export class RecordingWriter {
  readonly summary: LiveSummary;
  bytes: number;
  readonly #order: BatchOrder<Pending>;
  #writing: Promise<void> = Promise.resolve();
  #created: boolean;
  #closed = false;
  #failed = false;
  #missingTimer: ReturnType<typeof setTimeout> | undefined;

  /**
   * @param kept the shelf's entry, when this goes on with a recording that is there already
   * @param speed how much slower the device is than this computer, where that was measured
   */
  constructor(
    readonly recordingId: string,
    private readonly store: RecordingStore,
    private readonly events: RecordingWriterEvents,
    kept?: StoredRecording,
    private readonly speed?: number,
  ) {
    this.#created = kept !== undefined;
    this.summary = new LiveSummary(kept?.lengthMs);
    this.bytes = kept?.bytes ?? 0;
    this.#order = new BatchOrder(kept?.nextBatch ?? 0);
  }

  take(batch: Batch, text: string): void {
    if (this.#closed) return;
    const lines = text.split('\n').filter((line) => line !== '');
    const ready = this.#order.take(batch.sequence, { batch, lines });
    for (const pending of ready) this.#enqueue(pending);
    if (ready.length === 0 && batch.sequence < this.#order.next) this.events.onKept(batch.sequence);
    clearTimeout(this.#missingTimer);
    this.#missingTimer = setTimeout(() => this.#skipMissing(), MISSING_BATCH_MS);
  }

  /** Ends a recording whose target will send no more. */
  end(reason: 'target-left' | 'interrupted'): void {
    if (this.#closed) return;
    this.#closed = true;
    this.#after(() => {
      const end: Row = { kind: 'end', startMs: this.summary.lastMs, reason };
      return this.#finish(JSON.stringify(end));
    });
  }

  #skipMissing(): void {
    const { missing, ready } = this.#order.skipMissing();
    if (missing === 0) return;
    const rows = lostBatches(
      missing,
      this.summary.lastMs,
      ready.flatMap(({ lines }) => lines),
    );
    this.#after(() => this.#append(rows.map((row) => JSON.stringify(row))));
    for (const pending of ready) this.#enqueue(pending);
  }

  #enqueue({ batch, lines }: Pending): void {
    if (batch.last) this.#closed = true;
    this.#after(async () => {
      const end = batch.last ? lines.at(-1) : undefined;
      await this.#append(end === undefined ? lines : lines.slice(0, -1), batch.sequence + 1);
      if (end !== undefined) await this.#finish(end);
      this.events.onKept(batch.sequence);
    });
  }

  async #append(told: readonly string[], nextBatch?: number): Promise<void> {
    let lines = told;
    for (const line of lines) this.#summarise(line);
    if (!this.#created && lines.length > 0) {
      const header = this.#withSpeed(readHeader(JSON.parse(lines[0]!)));
      if (header.id !== this.recordingId)
        throw new RefusedRecordingError('unreadable', 'its header is that of another recording');
      await this.store.create(keptFrom(header, 'recording'));
      this.#created = true;
      lines = [JSON.stringify(header), ...lines.slice(1)];
    }
    const bytes = encoder.encode(lines.map((line) => `${line}\n`).join(''));
    const lengthMs = this.summary.lastMs;
    if (bytes.length > 0) await this.store.append(this.recordingId, [bytes], { lengthMs, nextBatch });
    this.bytes += bytes.length;
    this.events.onChange();
  }

  /** What only this computer knows of the device. */
  #withSpeed(header: Header): Header {
    return this.speed === undefined ? header : { ...header, speed: this.speed };
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

  /** Maps functions to their source, then ends: so a recording with an end is always mapped. */
  async #finish(endLine: string): Promise<void> {
    const { reason } = JSON.parse(endLine) as RowOfKind<'end'>;
    if (!this.#created) return this.events.onEnd(reason);
    await this.#append([...(await this.#resolvingLines()), endLine]);
    await this.store.finish(this.recordingId);
    this.events.onEnd(reason);
  }

  /** Ends a recording for which there is no more room: with its functions mapped if that fits, else without. */
  async #endAsFull(): Promise<boolean> {
    const end = JSON.stringify({ kind: 'end', startMs: this.summary.lastMs, reason: 'full' } satisfies Row);
    for (const lines of [[...(await this.#resolvingLines()), end], [end]]) {
      try {
        await this.#append(lines);
        await this.store.finish(this.recordingId);
        return true;
      } catch (error) {
        if (!(error instanceof StoreFullError)) throw error;
      }
    }
    return false;
  }

  async #resolvingLines(): Promise<string[]> {
    const builder = new RecordingBuilder();
    const decoder = new RecordingDecoder(builder);
    for (const piece of await this.store.pieces(this.recordingId)) decoder.push(piece);
    const recording = builder.build();
    const scripts = new Map<string, ScriptText>();
    for (const { url } of sourcesToFetch(recording)) {
      scripts.set(url, await this.events.fetchScript(url));
    }
    const left = recording.header.mode === 'exact' ? uninstrumentedRows(await this.events.leftAlone()) : [];
    return [...left, ...resolveFunctions(recording, scripts)].map((row) => JSON.stringify(row));
  }

  /** Work on the store happens one piece after the other. After an error nothing more is written. */
  #after(work: () => Promise<void>): void {
    this.#writing = this.#writing.then(async () => {
      if (this.#failed) return;
      try {
        await work();
      } catch (error) {
        this.#closed = true;
        this.#failed = true;
        const kept = error instanceof StoreFullError && (await this.#endAsFull());
        this.events.onError(error as Error, kept);
      }
    });
  }
}
