import type { FromWorker, ToWorker, WorkerGreeting, WorkerRecording } from '../messages';
import type { Capture } from '../page/capture/capture';
import { ownTasks } from '../page/capture/own-tasks';
import { marks, measures } from '../page/capture/user-timing';
import { ExactCalls } from '../page/exact/exact-calls';
import { keepFunctionText } from '../page/exact/function-text';
import { RecordingSession } from '../page/session';
import { Entries } from '../page/wrap/entries';
import { wrapHandlerProperties, wrapListeners, type EventCause } from '../page/wrap/events';
import { ours } from '../page/wrap/ours';
import { PendingFrames, SentMessages, wrapCallbacks } from '../page/wrap/scheduling';

const FLUSH_EVERY_MS = 100;
const INSTALLED = Symbol.for('nettle-patch recorder');

/** Records the thread of one worker, as the page's recorder does that of the page. */
class WorkerRecorder {
  #port: MessagePort | undefined;
  #thread = 0;
  #session: RecordingSession | undefined;
  #timer: ReturnType<typeof setInterval> | undefined;
  readonly #held: FromWorker[] = [];
  readonly #exact = new ExactCalls(
    {
      register: (firstId, told) => this.#send({ type: 'register', firstId, told }),
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
    this.#thread = thread;
    this.#port = port;
    port.onmessage = ours(({ data }: MessageEvent<ToWorker>) => {
      if (data.type === 'record') this.#record(data.recording);
      else this.#exact.ring.giveBack(data);
    });
    for (const message of this.#held.splice(0)) this.#send(message);
  }

  #record(recording: WorkerRecording | undefined): void {
    if (this.#session !== undefined) this.#end();
    if (recording === undefined) return;
    const originMs = recording.originEpochMs - performance.timeOrigin;
    const session = new RecordingSession(recording.recordingId, originMs, false, this.#thread);
    this.#session = session;
    for (const capture of this.#captures) capture.start(session);
    this.#timer = setInterval(
      ours(() => this.#flush()),
      FLUSH_EVERY_MS,
    );
  }

  #end(): void {
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

  /** What comes before the page has given the port waits for it. */
  #send(message: FromWorker, transfer: Transferable[] = []): void {
    if (this.#port === undefined) this.#held.push(message);
    else this.#port.postMessage(message, transfer);
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
    removeEventListener('message', onGreeting);
    recorder.join(data, ports[0]!);
  });
  addEventListener('message', onGreeting);
}
