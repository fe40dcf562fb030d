import type { FromWorker, ToWorker, WorkerGreeting, WorkerRecording } from '../messages';
import type { Capture } from '../page/capture/capture';
import { ownTasks } from '../page/capture/own-tasks';
import { marks, measures } from '../page/capture/user-timing';
import { ExactCalls } from '../page/exact/exact-calls';
import { keepFunctionText } from '../page/exact/function-text';
import { RecordingSession } from '../page/session';
import { Entries } from '../page/wrap/entries';
import { wrapHandlerProperties, wrapListeners, type EventCause } from '../page/wrap/events';
import { ours, oversee } from '../page/wrap/ours';
import { PendingFrames, SentMessages, wrapCallbacks } from '../page/wrap/scheduling';

const FLUSH_EVERY_MS = 100;
const INSTALLED = Symbol.for('nettle-patch recorder');

/** A page that has greeted the worker. */
interface JoinedPage {
  readonly thread: number;
  readonly port: MessagePort;
  /** How many of the scripts that have begun to run it knows of. */
  registered: number;
}

/**
 * Records the thread of one worker, as the page's recorder does that of the page. Several pages may share the worker:
 * it records for the one that asked last.
 */
class WorkerRecorder {
  #page: JoinedPage | undefined;
  readonly #registered: FromWorker[] = [];
  #session: RecordingSession | undefined;
  #timer: ReturnType<typeof setInterval> | undefined;
  readonly #exact = new ExactCalls(
    {
      register: (firstId, told) => {
        this.#registered.push({ type: 'register', firstId, told });
        this.#tellRegistered();
      },
      calls: ({ id, thread, originMs }, chunk) =>
        this.#send({ type: 'calls', recordingId: id, thread, originMs, ...chunk }, [
          chunk.ids.buffer,
          chunk.timesMs.buffer,
        ]),
    },
    true,
  );
  readonly #entries = new Entries(this.#exact.ring);
  readonly #captures: readonly Capture[] = [
    this.#exact,
    this.#entries,
    ownTasks(this.#entries),
    marks,
    measures,
  ];

  install(): void {
    oversee({
      failed: (error) => this.#session?.drop(`recorder failed: ${String(error)}`),
      ran: (startMs) => this.#session?.ranItself(startMs),
    });
    const messages = new SentMessages(this.#entries);
    const causeOf: EventCause = (target, event) => messages.causeOf(target, event);
    this.#exact.install(globalThis);
    keepFunctionText();
    wrapListeners(this.#entries, causeOf);
    for (const owner of [globalThis, Object.getPrototypeOf(globalThis) as object, MessagePort.prototype]) {
      wrapHandlerProperties(owner, this.#entries, causeOf);
    }
    wrapCallbacks(this.#entries, new PendingFrames());
    messages.install();
  }

  join({ thread }: WorkerGreeting, port: MessagePort): void {
    const page = { thread, port, registered: 0 };
    port.onmessage = ours(({ data }: MessageEvent<ToWorker>) => {
      if (data.type === 'buffers') this.#exact.ring.giveBack(data);
      else if (data.recording !== undefined || page === this.#page) {
        this.#end();
        this.#page = page;
        this.#tellRegistered();
        if (data.recording !== undefined) this.#record(page, data.recording);
      }
    });
  }

  #tellRegistered(): void {
    const page = this.#page;
    if (page === undefined) return;
    while (page.registered < this.#registered.length) {
      page.port.postMessage(this.#registered[page.registered++]);
    }
  }

  #record({ thread }: JoinedPage, recording: WorkerRecording): void {
    const originMs = recording.originEpochMs - performance.timeOrigin;
    const session = new RecordingSession(recording.recordingId, originMs, false, thread);
    this.#session = session;
    for (const capture of this.#captures) capture.start(session);
    this.#timer = setInterval(
      ours(() => this.#flush()),
      FLUSH_EVERY_MS,
    );
  }

  #end(): void {
    if (this.#session === undefined) return;
    for (const capture of this.#captures) void capture.stop();
    this.#flush();
    clearInterval(this.#timer);
    this.#session = undefined;
  }

  #flush(): void {
    const session = this.#session!;
    for (const capture of this.#captures) capture.collect?.();
    const rows = session.takeRows();
    if (rows.length > 0) this.#send({ type: 'rows', recordingId: session.id, rows });
  }

  #send(message: FromWorker, transfer: Transferable[] = []): void {
    this.#page?.port.postMessage(message, transfer);
  }
}

function isGreeting(data: unknown): data is WorkerGreeting {
  return (data as Partial<WorkerGreeting> | null)?.nettlePatch === 'worker-recorder';
}

/** Installs the recorder in a worker, before its own script, and takes the greeting before the app sees it. */
export function startWorker(): void {
  const scope = globalThis as { [INSTALLED]?: true };
  if (scope[INSTALLED] || typeof document !== 'undefined') return;
  scope[INSTALLED] = true;
  const recorder = new WorkerRecorder();
  recorder.install();
  const onGreeting = ours((event: Event) => {
    const { data, ports } = event as MessageEvent<unknown>;
    if (!isGreeting(data)) return;
    event.stopImmediatePropagation();
    recorder.join(data, ports[0]!);
  });
  addEventListener('message', onGreeting);
  addEventListener(
    'connect',
    ours((event: Event) => (event as MessageEvent).ports[0]!.addEventListener('message', onGreeting)),
  );
}
