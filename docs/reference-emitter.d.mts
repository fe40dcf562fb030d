/** A row or a header, as docs/recording-format.md describes them. */
export type EmittedRow = Readonly<Record<string, unknown>>;

/** What can be recorded, as a hello presents it. */
export interface EmitterTarget {
  readonly id: string;
  readonly title: string;
  readonly url: string;
  readonly engine: string;
  readonly device: string;
  readonly available: readonly string[];
  readonly missing: readonly string[];
}

/** What is done on each command. */
export interface EmitterCommands {
  start(recordingId: string): EmittedRow;
  stop(): EmittedRow;
  pause?(): void;
  goOn?(): readonly EmittedRow[];
  note?(text: string): readonly EmittedRow[];
}

/** The stack of a sample that saw nothing run. */
export declare const NO_STACK: -1;

/** When a thread was seen to stand on a stack, or on none. Microseconds from the start. */
export interface EmittedSample {
  readonly timeUs: number;
  readonly stack: number;
}

/** A row of samples of one thread, in order of time. @param intervalMs how far apart they are meant to be */
export declare function samplesRow(
  thread: number,
  intervalMs: number,
  samples: readonly EmittedSample[],
): EmittedRow;

/** A row of how often functions were called in a while, by their ids: best one a second. */
export declare function countsRow(
  thread: number,
  startMs: number,
  durationMs: number,
  counts: ReadonlyMap<number, number>,
): EmittedRow;

export declare class Emitter {
  constructor(base: string, target: EmitterTarget, on: EmitterCommands, code?: string);
  connect(): Promise<void>;
  close(): void;
  get recordingId(): string | undefined;
  get waiting(): number;
  add(rows: readonly EmittedRow[]): void;
}
