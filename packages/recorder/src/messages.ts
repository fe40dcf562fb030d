import type { Command, Header, Row, Target } from '@nettle-patch/core';
import type { CallChunk, ChunkBuffers } from './page/exact/call-event-buffer';
import type { CountedCalls } from './page/fine/call-counts';
import type { LookSamples } from './page/fine/stack-samples';

/** What the page tells for the header; the sender knows the rest, or finds it out without keeping the page waiting. */
export type PageHeader = Pick<Header, 'kind' | 'id' | 'startUp' | 'available' | 'missing'> & {
  /** When it began, in milliseconds since the epoch. */
  readonly originEpochMs: number;
};

/** The page as it presents itself, but for what the sender adds. */
export type PageTarget = WithoutDevice<Target>;

/** What a page tells of itself, with what of its device the sender cannot find out. */
type WithoutDevice<T> = Omit<T, 'engine' | 'device' | 'foreign' | 'closer'> & {
  readonly isSmallAndTouched: boolean;
} & LoadedParts;

/** What a page has loaded so far. */
export interface LoadedParts {
  /** Frames of other origins, in words. */
  readonly loadedFrames: readonly string[];
  /** Each file by what asked for it and its address, one right after the other. */
  readonly loadedFiles: readonly string[];
}

/** A row as it leaves the page: the header, or any other. */
export type OutgoingRow = PageHeader | Row;

/** What the engine's profiler gives (WICG JS Self-Profiling). */
export interface ProfilerTrace {
  readonly resources: readonly string[];
  readonly frames: readonly { name: string; resourceId?: number; line?: number; column?: number }[];
  readonly stacks: readonly { frameId: number; parentId?: number }[];
  readonly samples: readonly { timestamp: number; stackId?: number }[];
}

/** A trace of one thread, with times of the page's `performance.now()`. */
export interface SampledTrace extends OfThread {
  readonly intervalMs: number;
  readonly trace: ProfilerTrace;
}

/** Which thread of which recording something is of. */
export interface OfThread {
  readonly recordingId: string;
  readonly thread: number;
  /** What the clock of the page or the worker showed at time 0 of the recording. */
  readonly originMs: number;
}

/** From the page to its sender. */
export type ToSender =
  | {
      readonly type: 'connect';
      /** Address of one of the recorder's files, at the server it is to tell. */
      readonly scriptUrl: string;
      readonly secret: string;
    }
  | { readonly type: 'target'; readonly target: PageTarget }
  | {
      readonly type: 'batch';
      readonly recordingId: string;
      /** Its number, as far as the page knows. */
      readonly sequence: number;
      /** How many pages came before in the recording. */
      readonly page: number;
      readonly rows: readonly OutgoingRow[];
      readonly last: boolean;
    }
  /** A rewritten script has begun to run. `told` is a ScriptRegistration as JSON text. */
  | { readonly type: 'register'; readonly firstId: number; readonly registration: string }
  /** Exact calls, with times of the page's `performance.now()`. */
  | ({ readonly type: 'calls' } & OfThread & CallChunk)
  | ({ readonly type: 'trace' } & SampledTrace)
  /** Samples of where calls stood, with times of the page's `performance.now()`. */
  | ({ readonly type: 'looks' } & OfThread & LookSamples)
  /** How often functions were called in a while; its beginning and end by the page's `performance.now()`. */
  | ({ readonly type: 'counts'; readonly sinceMs: number; readonly untilMs: number } & OfThread &
      CountedCalls)
  /** Where another thread can see at which positions calls stand (see `LookSampler`). */
  | ({
      readonly type: 'open-positions';
      readonly calls: Int32Array<ArrayBufferLike>;
      /** `performance.timeOrigin` of the page or the worker. */
      readonly clockOrigin: number;
    } & OfThread)
  /** The main thread is alive. */
  | {
      readonly type: 'tick';
      readonly recordingId: string;
      readonly originMs: number;
      /** When, on the clock of `performance.now()` of the page. */
      readonly atMs: number;
      /** `performance.timeOrigin` of the page. */
      readonly timeOrigin: number;
      /** A page that is hidden, paused or ending is not watched. */
      readonly watch: boolean;
    }
  /** A worker of the page has begun to run; what it records comes by the port. */
  | {
      readonly type: 'worker-began';
      readonly thread: number;
      readonly name: string;
      readonly port: MessagePort;
    }
  /** Workers of the page are to record as the page does; undefined, to end. */
  | { readonly type: 'workers'; readonly recording: WorkerRecording | undefined }
  /** Where the page's open calls can be read while it hangs. */
  | { readonly type: 'open-calls'; readonly open: Int32Array };

/** What a worker is told of the recording it takes part in. */
export interface WorkerRecording {
  readonly recordingId: string;
  /** Time 0 of the recording, in milliseconds since the epoch of the clock all threads share. */
  readonly originEpochMs: number;
}

/** The first message of a worker, which its recorder takes before any listener of the app. */
export interface WorkerGreeting {
  readonly nettlePatch: 'worker-recorder';
  readonly thread: number;
  /** What runs already: its first script is to be in it. */
  readonly recording: WorkerRecording | undefined;
}

/** From the sender to a worker's recorder. */
export type ToWorker =
  | { readonly type: 'record'; readonly recording: WorkerRecording | undefined }
  | ({ readonly type: 'buffers' } & ChunkBuffers);

/** What a thread tells in fine mode. */
export type FineMessage = Extract<ToSender, { type: 'looks' | 'counts' | 'open-positions' }>;

/** From a worker's recorder to the sender. */
export type FromWorker =
  | Extract<ToSender, { type: 'register' | 'calls' }>
  | FineMessage
  | { readonly type: 'rows'; readonly recordingId: string; readonly rows: readonly Row[] };

/** From the sender to the page. */
export type FromSender =
  | { readonly type: 'command'; readonly command: Command }
  /** A batch was sent that the page does not know of. */
  | { readonly type: 'sent-more'; readonly recordingId: string }
  /** Buffers of a chunk, to be used again. */
  | ({ readonly type: 'buffers' } & ChunkBuffers);
