import type { Row } from '@nettle-patch/core';
import type { FromWorker, ToWorker, WorkerRecording } from '../messages';
import type { CallPacker } from './call-packer';
import type { FineThreads } from './fine-threads';

interface JoinedWorker {
  readonly thread: number;
  readonly name: string;
  readonly port: MessagePort;
}

/** Workers of the page, each of which records its own thread. */
export class Workers {
  readonly #joined: JoinedWorker[] = [];
  #recording: WorkerRecording | undefined;

  /** @param add takes rows for a recording */
  constructor(
    private readonly calls: CallPacker,
    private readonly fine: FineThreads,
    private readonly add: (recordingId: string, rows: readonly Row[]) => void,
  ) {}

  /** Takes in a worker that has begun to run. */
  join(thread: number, name: string, port: MessagePort): void {
    const worker = { thread, name, port };
    this.#joined.push(worker);
    port.onmessage = ({ data }: MessageEvent<FromWorker>) => this.#take(port, data);
    if (this.#recording !== undefined) this.#tell(worker);
  }

  /** Begins or ends what all workers record. */
  record(recording: WorkerRecording | undefined): void {
    this.#recording = recording;
    for (const worker of this.#joined) this.#tell(worker);
  }

  #tell(worker: JoinedWorker): void {
    const { thread, name, port } = worker;
    if (this.#recording !== undefined) {
      this.add(this.#recording.recordingId, [{ kind: 'thread', id: thread, name, type: 'worker' }]);
    }
    port.postMessage({ type: 'record', recording: this.#recording } satisfies ToWorker);
  }

  #take(port: MessagePort, message: FromWorker): void {
    if (message.type === 'register') this.calls.register(message.firstId, message.registration);
    else if (message.type === 'looks' || message.type === 'counts' || message.type === 'open-positions')
      this.fine.take(message);
    else if (message.type === 'rows') this.add(message.recordingId, message.rows);
    else {
      this.add(message.recordingId, this.calls.pack(message));
      const { ids, timesMs } = message;
      port.postMessage({ type: 'buffers', ids, timesMs } satisfies ToWorker, [ids.buffer, timesMs.buffer]);
    }
  }
}
