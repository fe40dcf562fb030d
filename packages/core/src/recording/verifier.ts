import { RecordingBuilder } from './builder';
import { RecordingDecoder } from '../format/decoder';
import { RefusedRecordingError } from '../format/errors';
import { ROW_SHAPES } from '../format/rows';

/** Something a recording should not have, or that a reader of this version passes over. */
export interface Finding {
  /** Whether it breaks the format; else it is a remark. */
  readonly isFault: boolean;
  /** Number of the line, from 1, where there is one. */
  readonly line?: number;
  readonly text: string;
}

/** Says of each line of a recording what breaks the format, as its bytes come. For those who write emitters. */
export class RecordingVerifier {
  readonly #builder = new RecordingBuilder();
  readonly #decoder: RecordingDecoder;
  #refused = false;

  /** @param tell is told each finding when it is found, in order of the lines */
  constructor(private readonly tell: (finding: Finding) => void) {
    this.#decoder = new RecordingDecoder(
      {
        header: (header) => this.#builder.header(header),
        row: (row) => this.#builder.row(row),
        unknown: (line) => this.#unknown(line),
      },
      undefined,
      ({ line, detail }) => tell({ isFault: true, text: detail, ...(line === undefined ? {} : { line }) }),
    );
  }

  /** Lines taken so far. */
  get lineCount(): number {
    return this.#decoder.lineCount;
  }

  push(piece: Uint8Array): void {
    this.#guarded(() => this.#decoder.push(piece));
  }

  finish(): void {
    this.#guarded(() => void this.#decoder.finish());
  }

  #unknown(line: string): void {
    const { kind } = JSON.parse(line) as { kind: string };
    const known = Object.keys(ROW_SHAPES).join(', ');
    const text = `"${kind}" is no kind this version knows, so it is kept and not shown; it knows ${known}`;
    this.tell({ isFault: false, line: this.#decoder.lineCount, text });
  }

  /** A recording whose first line is no header is none, and nothing after it can be judged. */
  #guarded(work: () => void): void {
    if (this.#refused) return;
    try {
      work();
    } catch (error) {
      if (!(error instanceof RefusedRecordingError)) throw error;
      this.#refused = true;
      this.tell({ isFault: true, line: 1, text: error.detail });
    }
  }
}
