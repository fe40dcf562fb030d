import { captureModeOf, type Header, type TimeRange } from '@nettle-patch/core';
import { Dexie } from 'dexie';
import type { KeptChunk, StoredRecording, NettleDatabase, Verdict } from './database';

/** A recording taken off the shelf, with which it can be put back. */
export interface RemovedRecording {
  readonly recording: StoredRecording;
  readonly chunks: readonly KeptChunk[];
}

export interface Progress {
  readonly lengthMs: number;
  readonly nextBatch?: number | undefined;
}

/** Thrown when the browser has no more room for recordings. */
export class StoreFullError extends Error {
  override readonly name = 'StoreFullError';
}

function isQuotaError(error: unknown): boolean {
  const { name, inner } = error as { name?: string; inner?: { name?: string } };
  return name === 'QuotaExceededError' || inner?.name === 'QuotaExceededError';
}

/** The shelf's entry for a recording that begins with a header. */
export function keptFrom(header: Header, state: StoredRecording['state']): StoredRecording {
  return {
    id: header.id,
    title: header.title || header.target.url,
    createdAt: header.startedAt,
    targetTitle: header.target.title,
    targetUrl: header.target.url,
    engine: header.target.engine,
    device: header.target.device,
    mode: captureModeOf(header),
    state,
    lengthMs: 0,
    bytes: 0,
    nextBatch: 0,
    damaged: false,
    tags: [],
  };
}

/** Keeps recordings in the browser. Every method is one transaction: it happens whole or not at all. */
export class RecordingStore {
  constructor(private readonly database: NettleDatabase) {}

  get(id: string): Promise<StoredRecording | undefined> {
    return this.database.recordings.get(id);
  }

  /** All recordings, the newest first. */
  list(): Promise<StoredRecording[]> {
    return this.database.recordings.orderBy('createdAt').reverse().toArray();
  }

  unfinished(): Promise<StoredRecording[]> {
    return this.database.recordings.where('state').equals('recording').toArray();
  }

  async create(recording: StoredRecording): Promise<void> {
    await this.#writing(() => this.database.recordings.add(recording));
  }

  /** Keeps a recording with all its pieces, or nothing of it. @throws StoreFullError when there is no room */
  async createWhole(recording: StoredRecording, pieces: readonly Uint8Array[]): Promise<void> {
    const { recordings, chunks } = this.database;
    const bytes = pieces.reduce((sum, piece) => sum + piece.length, 0);
    await this.#writing(() =>
      this.database.transaction('rw', recordings, chunks, async () => {
        await recordings.add({ ...recording, bytes });
        const { id } = recording;
        await chunks.bulkAdd(pieces.map((piece, sequence) => ({ recordingId: id, sequence, bytes: piece })));
      }),
    );
  }

  /**
   * Adds lines at the end of a recording.
   * @param progress how far the recording then reaches, and which batch is expected next
   * @throws StoreFullError when there is no room; nothing was written then.
   */
  async append(id: string, pieces: readonly Uint8Array[], progress: Progress): Promise<void> {
    const { recordings, chunks } = this.database;
    await this.#writing(() =>
      this.database.transaction('rw', recordings, chunks, async () => {
        const last = await this.#chunksOf(id).last();
        let sequence = last === undefined ? 0 : last.sequence + 1;
        let added = 0;
        for (const bytes of pieces) {
          await chunks.add({ recordingId: id, sequence: sequence++, bytes });
          added += bytes.length;
        }
        await recordings
          .where('id')
          .equals(id)
          .modify((kept) => {
            kept.bytes += added;
            kept.lengthMs = Math.max(kept.lengthMs, progress.lengthMs);
            kept.nextBatch = progress.nextBatch ?? kept.nextBatch;
          });
      }),
    );
  }

  /** @throws StoreFullError */
  async finish(id: string): Promise<void> {
    await this.#writing(() => this.database.recordings.update(id, { state: 'ended' }));
  }

  async rename(id: string, title: string): Promise<void> {
    await this.database.recordings.update(id, { title });
  }

  async setTags(id: string, tags: readonly string[]): Promise<void> {
    await this.database.recordings.update(id, { tags: [...tags] });
  }

  /** Keeps the ranges in which nothing should change. */
  async setQuiet(id: string, quiet: readonly TimeRange[]): Promise<void> {
    await this.database.recordings.update(id, { quiet });
  }

  /** Notes what was found in a recording, for its card. Where there is no room it can be found again. */
  async setVerdict(id: string, verdict: Verdict, lengthMs: number): Promise<void> {
    try {
      await this.#writing(() => this.database.recordings.update(id, { verdict, lengthMs }));
    } catch (error) {
      if (!(error instanceof StoreFullError)) throw error;
    }
  }

  async markDamaged(id: string): Promise<void> {
    await this.database.recordings.update(id, { damaged: true });
  }

  /** The pieces of a recording in order. */
  async pieces(id: string): Promise<Uint8Array[]> {
    const chunks = await this.#chunksOf(id).toArray();
    return chunks.map((chunk) => chunk.bytes);
  }

  /** Takes a recording off the shelf. */
  async remove(id: string): Promise<RemovedRecording | undefined> {
    const { recordings, chunks } = this.database;
    return this.database.transaction('rw', recordings, chunks, async () => {
      const recording = await recordings.get(id);
      if (recording === undefined) return undefined;
      const removed = await this.#chunksOf(id).toArray();
      await this.#chunksOf(id).delete();
      await recordings.delete(id);
      return { recording, chunks: removed };
    });
  }

  async putBack({ recording, chunks }: RemovedRecording): Promise<void> {
    await this.#writing(() =>
      this.database.transaction('rw', this.database.recordings, this.database.chunks, async () => {
        await this.database.recordings.add(recording);
        await this.database.chunks.bulkAdd([...chunks]);
      }),
    );
  }

  #chunksOf(id: string) {
    return this.database.chunks
      .where('[recordingId+sequence]')
      .between([id, Dexie.minKey], [id, Dexie.maxKey]);
  }

  async #writing<T>(write: () => PromiseLike<T>): Promise<T> {
    try {
      return await write();
    } catch (error) {
      if (isQuotaError(error)) throw new StoreFullError('the browser has no more room for recordings');
      throw error;
    }
  }
}
