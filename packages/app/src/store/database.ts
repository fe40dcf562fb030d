import type { TimeRange, Trial, TrialRun } from '@nettle-patch/core';
import { Dexie, type Table } from 'dexie';

export type KeptState = 'recording' | 'ended';

/** What the shelf knows of a recording without reading it. */
export interface StoredRecording {
  readonly id: string;
  title: string;
  /** When recording began, as ISO 8601. */
  readonly createdAt: string;
  readonly targetTitle: string;
  readonly targetUrl: string;
  readonly engine: string;
  readonly device: string;
  readonly mode: string;
  state: KeptState;
  lengthMs: number;
  /** Bytes of its lines. */
  bytes: number;
  /** Number of the batch that is expected next while it streams in. */
  nextBatch: number;
  /** Whether it was read from a file in which something was lost; it is then saved as it was read. */
  damaged: boolean;
  /** Words by which it is found again and put beside others. */
  tags: string[];
  /** Ranges in which nothing should change, where a person marked any here. Milliseconds. */
  quiet?: readonly TimeRange[];
  verdict?: Verdict;
}

/** What analysis found, in short. */
export interface Verdict {
  readonly stings: number;
  readonly worstMs: number;
  /** Whether the worst is no delay but milliseconds of each second, so that no delay was too long. */
  readonly worstIsRate?: boolean;
  /** Longest answer to an input, and time in long tasks; verdicts of older versions of the tool lack them. */
  readonly slowestResponseMs?: number;
  /** Whether no answer was slow enough to be timed, so that each is only known to have been below that. */
  readonly slowestIsBelow?: boolean;
  readonly longTaskMs?: number;
  /** Whether the browser reported nothing that would tell of a delay, so that no sting means nothing. */
  readonly blind: boolean;
  /** How many times as long script would take with exact calls, by the calls that fine mode counted. */
  readonly exactFactor?: number;
  /** Busy share of the main thread in equal steps, 0 to 1, as a small picture. */
  readonly skyline: readonly number[];
}

/** A piece of a recording: whole lines, each with its line end, as UTF-8. */
export interface KeptChunk {
  readonly recordingId: string;
  readonly sequence: number;
  readonly bytes: Uint8Array;
}

/** Something a person has set, under its name. */
export interface KeptPreferences {
  readonly name: string;
  readonly value: unknown;
}

/** A trial that is kept, with what came of it when it ran last in each place. */
export interface StoredTrial {
  readonly id: string;
  /** When it was changed or run last, as ISO 8601. */
  readonly changedAt: string;
  readonly trial: Trial;
  readonly runs: readonly TrialRun[];
}

/** All that is kept in this browser. */
export class NettleDatabase extends Dexie {
  readonly recordings!: Table<StoredRecording, string>;
  readonly chunks!: Table<KeptChunk, [string, number]>;
  readonly preferences!: Table<KeptPreferences, string>;
  readonly trials!: Table<StoredTrial, string>;

  constructor(name = 'nettle-patch') {
    super(name);
    this.version(1).stores({ recordings: 'id, createdAt, state', chunks: '[recordingId+sequence]' });
    this.version(2).stores({ preferences: 'name' });
    this.version(3)
      .stores({ recordings: 'id, createdAt, state, *tags' })
      .upgrade((transaction) =>
        transaction
          .table<StoredRecording>('recordings')
          .toCollection()
          .modify((kept) => {
            kept.tags ??= [];
          }),
      );
    this.version(4).stores({ trials: 'id, changedAt' });
  }
}
