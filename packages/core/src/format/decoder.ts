import { RunningCheck, isCheckLine } from './check-row';
import { RefusedRecordingError, type ReadNotice } from './errors';
import { rowProblem } from './fields';
import { readHeader, type Header } from './header';
import { MAX_EMPTY_LINES, MAX_RECORDING_BYTES, MAX_UNKNOWN_LENGTH, MAX_UNKNOWN_LINES } from './limits';
import { LineReader, type LineBytes } from './line-reader';
import { NoticeList } from './notices';
import { ROW_SHAPES, isRowKind, type Row } from './rows';
import { countText } from '../words/figures';

/** Where a decoder puts what it reads. */
export interface RowSink {
  header(header: Header): void;
  /**
   * Takes a row whose fields have been checked one by one.
   * @param read share of the whole input that was read up to it, above 0 up to 1, where that is known
   * @returns words that say why the row cannot belong to this recording, or undefined.
   */
  row(row: Row, read?: number): string | undefined;
  /** Takes the line of a kind this version does not know. */
  unknown(line: string): void;
}

/**
 * Reads a recording from its bytes, piece by piece. What cannot be read is noted and passed over; only input
 * whose first line is no header is refused.
 */
export class RecordingDecoder {
  readonly #lines = new LineReader((line, at) => this.#line(line, at));
  readonly #notices: NoticeList;
  readonly #check = new RunningCheck();
  #lineNumber = 0;
  #uncheckedFrom = 1;
  #checksSeen = false;
  #headerSeen = false;
  #endSeen = false;
  #bytesRead = 0;
  #bytesTaken = 0;
  #emptyLines = 0;
  #unknownLines = 0;
  #unknownLength = 0;

  /**
   * @param totalBytes how many bytes of lines are to be read in all, as far as that is known
   * @param onNotice is told of everything that is lost or doubtful, when it is found
   */
  constructor(
    private readonly sink: RowSink,
    private readonly totalBytes?: number,
    onNotice?: (notice: ReadNotice) => void,
  ) {
    this.#notices = new NoticeList(onNotice);
  }

  /** @throws RefusedRecordingError when the first line is no header this version can read. */
  push(piece: Uint8Array): void {
    if (this.isFull) return;
    const roomBytes = MAX_RECORDING_BYTES - this.#bytesTaken;
    this.#bytesTaken += piece.length;
    try {
      this.#lines.push(piece.length > roomBytes ? piece.subarray(0, roomBytes) : piece);
    } catch (error) {
      if (error instanceof RangeError) throw new RefusedRecordingError('not-a-recording', error.message);
      throw error;
    }
  }

  /** Whether as much was read as is read of one recording, so that more pieces are passed over. */
  get isFull(): boolean {
    return this.#bytesTaken >= MAX_RECORDING_BYTES || this.#saysTooLittle;
  }

  get #saysTooLittle(): boolean {
    return this.#emptyLines > MAX_EMPTY_LINES;
  }

  /** Lines read so far. */
  get lineCount(): number {
    return this.#lineNumber;
  }

  /** Adds something lost before the bytes came here, such as the end of a damaged archive. */
  note(notice: ReadNotice): void {
    this.#notices.add(notice);
  }

  /**
   * Ends reading.
   * @returns all that was lost or is doubtful.
   * @throws RefusedRecordingError when there was no complete first line.
   */
  finish(): ReadNotice[] {
    if (this.isFull) {
      const mib = MAX_RECORDING_BYTES / 1024 ** 2;
      const why = this.#saysTooLittle
        ? `more than ${countText(MAX_EMPTY_LINES)} of its lines say nothing that can be read`
        : `it unpacks to more than ${mib} MiB, which is as much as is read of one recording`;
      const detail = `${why}; the rest was left out`;
      this.#notices.add({ code: 'too-large', detail, line: this.#lineNumber });
    }
    const rest = this.#lines.rest();
    if (rest !== undefined && !this.#headerSeen && this.#lineNumber === 0) this.#line(rest.line, rest.at);
    else if (rest !== undefined) this.#cutOff(`line ${this.#lineNumber + 1} is incomplete`);
    if (!this.#headerSeen) throw new RefusedRecordingError('empty', 'there is no line in it');
    if (!this.#endSeen && rest === undefined) this.#cutOff('the row that ends a recording is missing');
    if (this.#checksSeen && this.#endSeen && this.#uncheckedFrom <= this.#lineNumber) {
      this.#altered(this.#lineNumber, 'the check line for them is missing');
    }
    return this.#notices.list();
  }

  #line(line: string, at: LineBytes): void {
    if (this.#saysTooLittle) return;
    this.#lineNumber++;
    this.#bytesRead += at.to - at.from + 1;
    if (isCheckLine(line)) {
      this.#checkLine(line);
      return;
    }
    this.#check.add(at);
    const value = this.#parse(line);
    if (!this.#headerSeen) {
      this.sink.header(readHeader(value));
      this.#headerSeen = true;
    } else if (value !== undefined) {
      this.#row(value, line);
    }
  }

  #parse(line: string): unknown {
    try {
      if (line.length > 0) return JSON.parse(line);
    } catch {
      // Told below, as an empty line is.
    }
    if (this.#headerSeen) this.#badLine('it is no JSON');
    return undefined;
  }

  #row(value: unknown, line: string): void {
    const kind = (value as { kind?: unknown } | null)?.kind;
    if (typeof kind !== 'string') {
      this.#badLine('it has no "kind"');
    } else if (!isRowKind(kind)) {
      this.#unknown(line);
    } else {
      const problem =
        rowProblem(ROW_SHAPES[kind], value as Record<string, unknown>) ??
        this.sink.row(value as Row, this.#share());
      if (problem !== undefined) this.#badLine(`in a "${kind}" row, ${problem}`);
      else if (kind === 'end') this.#endSeen = true;
    }
  }

  #unknown(line: string): void {
    this.#unknownLines++;
    this.#unknownLength += line.length;
    if (this.#unknownLines <= MAX_UNKNOWN_LINES && this.#unknownLength <= MAX_UNKNOWN_LENGTH) {
      this.sink.unknown(line);
      return;
    }
    this.#emptyLines++;
    const most = `${countText(MAX_UNKNOWN_LINES)} lines or ${MAX_UNKNOWN_LENGTH / 1024 ** 2} MiB`;
    const detail = `it is of a kind this version does not know, of which no more than ${most} are kept`;
    this.#notices.add({ code: 'dropped', detail, line: this.#lineNumber });
  }

  #share(): number | undefined {
    return this.totalBytes === undefined ? undefined : Math.min(1, this.#bytesRead / this.totalBytes);
  }

  #checkLine(line: string): void {
    this.#checksSeen = true;
    if (this.#check.take() !== line) this.#altered(this.#lineNumber - 1, 'their checksum does not fit');
    this.#uncheckedFrom = this.#lineNumber + 1;
  }

  #badLine(detail: string): void {
    this.#emptyLines++;
    this.#notices.add({ code: 'bad-line', detail, line: this.#lineNumber });
  }

  #altered(lastLine: number, why: string): void {
    const lines = `lines ${this.#uncheckedFrom} to ${lastLine}`;
    this.#notices.add({
      code: 'altered',
      detail: `${lines} were changed or damaged: ${why}`,
      line: lastLine,
    });
  }

  #cutOff(detail: string): void {
    this.#notices.add({ code: 'cut-off', detail, line: this.#lineNumber });
  }
}
