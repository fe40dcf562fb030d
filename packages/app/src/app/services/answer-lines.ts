const LINE_END = 10;

/** Splits an answer into lines as it comes, until the rest is asked for. */
export class AnswerLines {
  #pieces: Uint8Array<ArrayBuffer>[] = [];

  constructor(private readonly reader: ReadableStreamDefaultReader<Uint8Array<ArrayBuffer>>) {}

  /** The next line; undefined at the end. */
  async next(): Promise<string | undefined> {
    for (;;) {
      const last = this.#pieces.at(-1);
      const end = last?.indexOf(LINE_END) ?? -1;
      if (last !== undefined && end >= 0) {
        const line = new Blob([...this.#pieces.slice(0, -1), last.slice(0, end)]);
        this.#pieces = [last.slice(end + 1)];
        return line.text();
      }
      const { done, value } = await this.reader.read();
      if (done) return undefined;
      this.#pieces.push(value);
    }
  }

  async rest(): Promise<Blob> {
    for (;;) {
      const { done, value } = await this.reader.read();
      if (done) return new Blob(this.#pieces);
      this.#pieces.push(value);
    }
  }

  /**
   * The events of an answer, one a line, until who reads them has what it waits for.
   * @throws Error with the reason where one says that it failed, and where no more comes
   */
  async *events<Event extends { readonly type: string }>(
    parse: (line: string) => Event | Failed,
  ): AsyncGenerator<Exclude<Event, Failed>, never> {
    for (;;) {
      const line = await this.next();
      if (line === undefined) throw new Error('the server has ended before it was done');
      const event = parse(line);
      if (isFailed(event)) throw new Error(event.reason);
      yield event as Exclude<Event, Failed>;
    }
  }
}

interface Failed {
  readonly type: 'failed';
  readonly reason: string;
}

function isFailed(event: { readonly type: string }): event is Failed {
  return event.type === 'failed';
}
