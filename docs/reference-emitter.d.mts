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

export declare class Emitter {
  constructor(base: string, target: EmitterTarget, on: EmitterCommands, code?: string);
  connect(): Promise<void>;
  close(): void;
  get recordingId(): string | undefined;
  get waiting(): number;
  add(rows: readonly EmittedRow[]): void;
}
