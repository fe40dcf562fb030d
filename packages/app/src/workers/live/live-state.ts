import type { ListedTarget, ServedApp } from '@nettle-patch/core';
import type { Failure } from '../failure';

export type ConnectionState = 'connecting' | 'open' | 'lost' | 'wrong-secret' | 'no-secret';

/** What a person calls a recording before it begins; an empty title is that of the target. */
export interface RecordingName {
  readonly title?: string;
  readonly tags?: readonly string[];
}

/** An input as it is shown while recording. */
export interface LiveInput {
  readonly startMs: number;
  readonly label: string;
  readonly feltMs: number;
  readonly measured: boolean;
}

/** A long task of the main thread, and the code that was entered in it, where that is known. */
export interface LiveTask {
  readonly startMs: number;
  readonly durationMs: number;
  readonly name?: string;
  readonly place?: string;
}

/** A hang while it lasts; the calls it hangs in, the innermost first, where they can be seen. */
export interface LiveHang {
  readonly startMs: number;
  readonly durationMs: number;
  readonly calls: readonly { readonly name: string; readonly place: string }[];
}

/** `finishing`: the page has told all, and what is still to be known of its sources is fetched. */
export type LiveRecordingState =
  'starting' | 'waiting-for-load' | 'recording' | 'paused' | 'stopping' | 'finishing' | 'ended' | 'failed';

/** What is known of a recording while it runs. */
export interface LiveRecording {
  readonly id: string;
  readonly targetId: string;
  readonly targetTitle: string;
  readonly state: LiveRecordingState;
  readonly elapsedMs: number;
  readonly bytes: number;
  /** Share of the last second the main thread was busy, 0 to 1. */
  readonly busyShare: number;
  /** Busy share of the last seconds, a quarter of a second each, oldest first. */
  readonly busyHistory: readonly number[];
  /** The latest inputs, newest first. */
  readonly inputs: readonly LiveInput[];
  /** The latest long tasks, newest first. */
  readonly tasks: readonly LiveTask[];
  readonly hang?: LiveHang;
  /** Bytes the browser still has room for, as it estimates. */
  readonly roomBytes?: number;
  /** Share of the main thread the recorder itself took. */
  readonly costShare: number;
  /** Why it ended other than by being stopped. */
  readonly problem?: LiveProblem;
}

export type LiveProblem = 'target-left' | 'store-full' | 'no-answer' | 'bad-rows' | 'connection-lost';

/** A target, and how much slower its device is than this computer; undefined where that was not measured. */
export interface LiveTarget extends ListedTarget {
  readonly speed?: number;
}

/** A file that a program has sent: the recording it was kept as, or why it was not. */
export type Received = { readonly number: number } & (
  { readonly id: string } | { readonly failure: Failure }
);

export interface LiveState {
  readonly connection: ConnectionState;
  readonly targets: readonly LiveTarget[];
  /** Apps that can be opened to be recorded; undefined until the server has told of them. */
  readonly apps: readonly ServedApp[] | undefined;
  readonly recording: LiveRecording | null;
  /** Whether another tab of the tool writes a recording. */
  readonly elsewhere?: boolean;
  /** The file that came last for the shelf. */
  readonly received?: Received;
}

export const INITIAL_LIVE_STATE: LiveState = {
  connection: 'connecting',
  targets: [],
  apps: undefined,
  recording: null,
};
