import { MAIN_THREAD } from '@nettle-patch/core';
import type { FromWorker, ToWorker, WorkerGreeting, WorkerRecording } from '../messages';
import type { Capture } from '../page/capture/capture';
import { taskFallback } from '../listeners/task-fallback';
import { marks, measures } from '../page/capture/user-timing';
import type { AboutThread } from '../page/capture-registry';
import { ExactCalls } from '../page/exact/exact-calls';
import { FineSamples } from '../page/fine/fine-samples';
import { provideLooks } from '../page/fine/provided';
import { keepFunctionText } from '../page/exact/function-text';
import { provideCalls } from '../page/exact/provided';
import { createTimedCalls } from '../page/exact/timed-calls';
import { clearInterval, listen, send, setInterval } from '../page/natives';
import { NextTask } from '../page/next-task';
import { RecordingSession } from '../page/session';
import { hasRecorder, installed } from '../page/shared';
import { ScriptEntryTracker } from '../page/wrap/script-entries';
import { Listeners } from '../page/wrap/events';
import { markInternal, overseeInto } from '../page/wrap/internal';
import { countMessages } from '../page/wrap/worker-line';
import { wrapCallbacks } from '../page/wrap/callbacks';
import { PendingFrames } from '../page/wrap/pending-frames';
import { SentMessages } from '../page/wrap/sent-messages';

const FLUSH_EVERY_MS = 100;

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
  /** What it recorded last, which may go on after a pause. */
  #latest: RecordingSession | undefined;
  #timer: ReturnType<typeof setInterval> | undefined;
  readonly #exact = new ExactCalls((session, chunk) => {
    this.#tell(session, { type: 'calls', ...chunk }, [chunk.ids.buffer, chunk.timesMs.buffer]);
  }, true);
  readonly #timed = createTimedCalls(this.#exact.ring, (...told) => this.#tell(...told));
  #fine: FineSamples | undefined;
  readonly #entries = new ScriptEntryTracker(this.#exact.ring);
  readonly #captures: Capture[] = [
    this.#exact,
    this.#timed,
    this.#entries,
    taskFallback({ entries: this.#entries, NextTask }),
    marks,
    measures,
  ];

  /** @param closer place of the function that is looked at closer; empty for none */
  constructor(private readonly closer: string) {}

  install(): void {
    overseeInto(() => this.#session);
    const messages = new SentMessages(this.#entries, globalThis);
    const listeners = new Listeners(this.#entries, (target, event) => messages.causeOf(target, event));
    provideCalls(this.#timed, (firstId, registration, functionCount) => {
      const told =
        functionCount === undefined
          ? registration
          : this.#fineSamples().register(this.#exact.ring, firstId, registration, functionCount);
      this.#registered.push({ type: 'register', firstId, registration: told });
      this.#tellRegistered();
    });
    keepFunctionText();
    listeners.wrapListening(globalThis);
    listeners.wrapHandlers(MessagePort.prototype);
    const frames = new PendingFrames();
    // In a worker, timers and the handlers of errors are those of a prototype of the global object.
    for (
      let owner = globalThis as object | null;
      owner;
      owner = Object.getPrototypeOf(owner) as object | null
    ) {
      listeners.wrapHandlers(owner);
      wrapCallbacks(this.#entries, frames, owner);
    }
    messages.install();
  }

  /** What fine mode needs, from the first script on that was rewritten for it. */
  #fineSamples(): FineSamples {
    if (this.#fine !== undefined) return this.#fine;
    const fine = new FineSamples((...told) => this.#tell(...told), this.closer);
    this.#fine = fine;
    provideLooks(fine.sampler, this.closer !== '');
    this.#entries.onOutermost(() => fine.sampler.unwind());
    this.#captures.push(fine);
    if (this.#session !== undefined) fine.start(this.#session);
    return fine;
  }

  join({ thread, recording }: WorkerGreeting, port: MessagePort): void {
    const page = { thread, port, registered: 0 };
    listen(
      port,
      'message',
      markInternal(({ data }: MessageEvent<ToWorker>) => {
        if (data.type === 'buffers') this.#exact.ring.giveBack(data);
        else this.#obey(page, data.recording);
      }),
    );
    port.start();
    if (recording !== undefined) this.#obey(page, recording);
  }

  #obey(page: JoinedPage, recording: WorkerRecording | undefined): void {
    if (page === this.#page && recording?.recordingId === this.#session?.id) return;
    if (recording === undefined && page !== this.#page) return;
    this.#end();
    this.#page = page;
    this.#tellRegistered();
    if (recording !== undefined) this.#record(page, recording);
  }

  #tellRegistered(): void {
    const page = this.#page;
    if (page === undefined) return;
    while (page.registered < this.#registered.length) {
      send(page.port, this.#registered[page.registered++]);
    }
  }

  #record({ thread }: JoinedPage, recording: WorkerRecording): void {
    const originMs = recording.originEpochMs - performance.timeOrigin;
    const { recordingId } = recording;
    if (this.#latest?.id !== recordingId || this.#latest.thread !== thread)
      this.#latest = new RecordingSession(recordingId, originMs, false, thread);
    const session = this.#latest;
    this.#session = session;
    for (const capture of this.#captures) capture.start(session);
    this.#timer = setInterval(
      markInternal(() => this.#flush()),
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

  #tell({ id, thread, originMs }: RecordingSession, about: AboutThread, transfer?: Transferable[]): void {
    this.#send({ recordingId: id, thread, originMs, ...about } as FromWorker, transfer);
  }

  #send(message: FromWorker, transfer: Transferable[] = []): void {
    if (this.#page !== undefined) send(this.#page.port, message, transfer);
  }
}

function isGreeting(data: unknown): data is WorkerGreeting {
  return (data as Partial<WorkerGreeting> | null)?.nettlePatch === 'worker-recorder';
}

/**
 * Installs the recorder in a worker, before its own script, and takes the greeting before the app sees it.
 * @param closer place of the function that is looked at closer; empty for none
 */
export function startWorker(closer: string): void {
  if (hasRecorder(globalThis) || typeof document !== 'undefined') return;
  installed();
  const recorder = new WorkerRecorder(closer);
  recorder.install();
  const onGreeting = markInternal((event: Event) => {
    const { data, ports } = event as MessageEvent<unknown>;
    if (!isGreeting(data)) return;
    event.stopImmediatePropagation();
    recorder.join(data, ports[0]!);
  });
  listen(globalThis, 'message', onGreeting);
  countMessages(globalThis, MAIN_THREAD, (event) => !isGreeting((event as MessageEvent).data));
  listen(
    globalThis,
    'connect',
    markInternal((event: Event) => listen((event as MessageEvent).ports[0]!, 'message', onGreeting)),
  );
}
