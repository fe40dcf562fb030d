import {
  callsOfRow,
  displayName,
  fileCosts,
  functionTable,
  filePlaceOf,
  type FileCosts,
  type FunctionRow,
  type Lens,
  type LineCost,
  type Owner,
  type Recording,
} from '@nettle-patch/core';

/** A file of the recording, as the list of files shows it. Times are milliseconds. */
export interface FileInfo {
  readonly file: string;
  readonly owner: Owner;
  readonly selfMs: number;
  readonly forcedMs: number;
  readonly hasText: boolean;
}

/** A function of the file that is shown. */
export interface FileFunction {
  readonly functionId: number;
  readonly name: string;
  readonly line: number;
  readonly selfMs: number;
  readonly totalMs: number;
  readonly count: number;
}

export interface ShownLine extends LineCost {
  /** Names of the functions that begin on it, or else of the one that stood on it most. */
  readonly names: readonly string[];
  /** What was called from it, the dearest first, at most a few. */
  readonly calls: readonly { readonly functionId: number; readonly name: string; readonly totalMs: number }[];
}

const MAX_CALLS_OF_LINE = 5;

/** A file with what its lines cost. */
export interface ShownFile {
  readonly file: string;
  /** Its text; undefined where the recording does not carry it. */
  readonly text: string | undefined;
  /** Why there is no text. */
  readonly problem: string;
  readonly lines: readonly ShownLine[];
  readonly functions: readonly FileFunction[];
}

interface KnownUnderLens {
  readonly key: string;
  readonly files: readonly FileCosts[];
  readonly rows: ReadonlyMap<number, FunctionRow>;
}

/** Answers what the source view asks about one recording. */
export class SourceQueries {
  #known: KnownUnderLens | undefined;
  /** Texts that a person has supplied. */
  readonly #supplied = new Map<string, string>();

  constructor(private readonly recording: Recording) {}

  /** All files with functions in them, the dearest first. */
  files(lens: Lens): FileInfo[] {
    return this.#under(lens).files.map(({ file, owner, selfMs, lines }) => ({
      file,
      owner,
      selfMs,
      forcedMs: lines.reduce((sum, line) => sum + line.forcedMs, 0),
      hasText: this.#textOf(file) !== undefined,
    }));
  }

  file(lens: Lens, file: string): ShownFile {
    const { files, rows } = this.#under(lens);
    const lines = files.find((one) => one.file === file)?.lines ?? [];
    const named = (functionId: number) => displayName(this.recording.functions.get(functionId));
    const text = this.#textOf(file);
    return {
      file,
      text,
      problem: text === undefined ? this.#problemOf(file) : '',
      lines: lines.map((line) => ({
        ...line,
        names: (line.functionIds.length === 0 && line.functionId !== undefined
          ? [line.functionId]
          : line.functionIds
        ).map(named),
        calls: line.called
          .slice(0, MAX_CALLS_OF_LINE)
          .map(({ functionId, totalMs }) => ({ functionId, name: named(functionId), totalMs })),
      })),
      functions: lines.flatMap(({ line, functionIds }) =>
        functionIds.map((functionId) => {
          const row = rows.get(functionId);
          const { selfMs = 0, totalMs = 0 } = row ?? {};
          return {
            functionId,
            name: named(functionId),
            line,
            selfMs,
            totalMs,
            count: row === undefined ? 0 : callsOfRow(row),
          };
        }),
      ),
    };
  }

  /** Where a function is. */
  locationOf(functionId: number): { readonly file: string; readonly line: number } | undefined {
    return filePlaceOf(this.recording, this.recording.functions.get(functionId));
  }

  /** Takes the text of a file from a person. */
  supply(file: string, text: string): void {
    this.#supplied.set(file, text);
  }

  #textOf(file: string): string | undefined {
    return this.#supplied.get(file) ?? this.recording.files.get(file);
  }

  #problemOf(file: string): string {
    const source = [...this.recording.sources.values()].find(({ url }) => url === file);
    return source?.problem ?? 'the recording does not carry its text';
  }

  #under(lens: Lens): KnownUnderLens {
    const key = JSON.stringify(lens);
    if (this.#known?.key !== key) {
      const rows = functionTable(this.recording, lens);
      this.#known = {
        key,
        files: fileCosts(this.recording, lens, rows),
        rows: new Map(rows.map((row) => [row.functionId, row])),
      };
    }
    return this.#known;
  }
}
