import {
  BETWEEN_PAGES_MS,
  measureCalculation,
  parseServerMessage,
  slowerBy,
  type Command,
  type ListedTarget,
  type ServedApp,
} from '@nettle-patch/core';
import { StoreFullError, type RecordingStore } from '../../store/recording-store';
import { failureOf } from '../failure';
import { importFile } from '../import/import-file';
import { RecordingWriter, type RecordingWriterEvents } from './recording-writer';
import { describe, isEnding, type Current, type Following } from './current-recording';
import { takeRecording, untilFree } from './recording-lock';
import {
  INITIAL_LIVE_STATE,
  type LiveRecordingState,
  type LiveState,
  type LiveTarget,
  type RecordingName,
} from './live-state';
import { RelaySocket } from './relay-socket';
import { fetchUninstrumented, fetchScript } from '../analysis/fetch-script';

/** How long a page may take to begin or end a recording before it is said not to answer. */
const ANSWER_MS = 6000;
const TELL_EVERY_MS = 100;
const ROOM_EVERY_MS = 10_000;

/** Follows the targets, keeps the recording that runs, and tells the interface about both. */
export class LiveSession {
  #state: LiveState = INITIAL_LIVE_STATE;
  #socket: RelaySocket | undefined;
  #current: Current | undefined;
  #secret = '';
  #origin = '';
  #answerTimer: ReturnType<typeof setTimeout> | undefined;
  #isScheduled = false;
  #roomBytes: number | undefined;
  /** How long the set calculation takes on this computer, once it was of use. */
  #calculationMs: number | undefined;

  constructor(
    private readonly store: RecordingStore,
    private readonly tell: (state: LiveState) => void,
  ) {}

  connect(origin: string, secret: string): void {
    this.#origin = origin;
    this.#secret = secret;
    if (secret === '') {
      this.#change({ connection: 'no-secret' });
      return;
    }
    this.#socket = new RelaySocket(origin, secret, {
      onState: (connection) =>
        this.#change(connection === 'open' ? { connection } : { connection, targets: [] }),
      onMessage: (text) => this.#message(text),
      onFile: (file) => void this.#received(file),
    });
    this.#socket.connect();
    setInterval(() => this.#current && this.#changed(), TELL_EVERY_MS * 2);
    void this.#lookForRoom();
    setInterval(() => void this.#lookForRoom(), ROOM_EVERY_MS);
  }

  /** Has a page loaded again. */
  reload(targetId: string): void {
    this.#send({ type: 'reload', targetId, recordingId: 'none' });
  }

  /** Begins a recording, at once or with the page's next load. */
  start(targetId: string, withNextLoad: boolean, named: RecordingName): void {
    const target = this.#state.targets.find(({ id }) => id === targetId);
    if (target === undefined || this.#isRunning()) return;
    const recordingId = crypto.randomUUID();
    this.#follow(target, recordingId, withNextLoad ? 'waiting-for-load' : 'starting', { named });
    this.#send({ type: withNextLoad ? 'start-with-next-load' : 'start', targetId, recordingId });
    if (!withNextLoad) this.#expectAnswer();
  }

  command(type: 'pause' | 'go-on' | 'stop'): void {
    const current = this.#current;
    if (current === undefined) return;
    if (type === 'stop' && current.state === 'waiting-for-load') {
      this.#forget();
      return;
    }
    if (type === 'stop' && this.#state.connection !== 'open') {
      current.state = 'finishing';
      current.writer.end('interrupted');
      return;
    }
    this.#send({ type, ...this.#sourceOf(current) });
    if (type === 'stop') {
      current.state = 'stopping';
      this.#expectAnswer();
      this.#changed();
    }
  }

  note(text: string): void {
    const current = this.#current;
    if (current !== undefined) this.#send({ type: 'note', ...this.#sourceOf(current), text });
  }

  /** Puts away a recording that has ended, so that another can begin. */
  dismiss(): void {
    if (!this.#isRunning()) this.#forget();
  }

  #isRunning(): boolean {
    return this.#current !== undefined && !['ended', 'failed'].includes(this.#current.state);
  }

  async #lookForRoom(): Promise<void> {
    const { quota, usage } = (await navigator.storage?.estimate?.()) ?? {};
    if (quota !== undefined && usage !== undefined) this.#roomBytes = quota - usage;
  }

  #forget(): void {
    this.#current?.release();
    this.#current = undefined;
    clearTimeout(this.#answerTimer);
    this.#changed();
  }

  /** What a writer asks of the server. */
  #server(): Pick<RecordingWriterEvents, 'fetchScript' | 'uninstrumented'> {
    return {
      fetchScript: (url) => fetchScript(this.#origin, this.#secret, url),
      uninstrumented: () => fetchUninstrumented(this.#origin, this.#secret),
    };
  }

  #follow(
    target: LiveTarget,
    recordingId: string,
    state: LiveRecordingState,
    { named, kept, release }: Following,
  ): void {
    const writer = new RecordingWriter(
      recordingId,
      this.store,
      {
        acknowledge: (sequence) => this.#send({ type: 'acknowledge', ...this.#sourceOf(current), sequence }),
        askAgain: () => this.#send({ type: 'follow', ...this.#sourceOf(current) }),
        onChange: () => this.#progress(current),
        onEnd: (reason) => this.#ended(current, reason),
        onError: (error, kept) => this.#failed(current, error, kept),
        ...this.#server(),
      },
      kept,
      { ...named, speed: target.speed },
    );
    const current: Current = {
      writer,
      targetId: target.id,
      targetTitle: target.title || target.url,
      state,
      runningSince: Date.now(),
      elapsedBefore: target.recording?.elapsedMs ?? 0,
      release: release ?? (() => undefined),
    };
    this.#current = current;
    if (release === undefined) void takeRecording(recordingId).then((taken) => this.#hold(current, taken));
    this.#changed();
  }

  /** A recording that has ended meanwhile is nobody's any more. */
  #hold(current: Current, release: (() => void) | undefined): void {
    if (release === undefined) return;
    if (this.#current === current && this.#isRunning()) current.release = release;
    else release();
  }

  /** The target that is recording now: after a load of the page it has another id than the one chosen. */
  #targetNow(current: Current): { targetId: string } | undefined {
    const target = this.#state.targets.find(({ recording }) => recording?.id === current.writer.recordingId);
    return target && { targetId: target.id };
  }

  /** Where the recording comes from, in a command. */
  #sourceOf(current: Current): Pick<Command, 'targetId' | 'recordingId'> {
    const { targetId } = this.#targetNow(current) ?? current;
    return { targetId, recordingId: current.writer.recordingId };
  }

  #message(text: string): void {
    const message = parseServerMessage(text);
    if (message.type === 'target-left') this.#targetLeft(message.recordingId);
    else if (message.type === 'targets') void this.#targets(message.targets, message.apps);
    else if (message.batch.recordingId === this.#current?.writer.recordingId) {
      this.#current.writer.take(message);
      if (this.#current.writer.isClosed) this.#finishes(this.#current);
    }
  }

  async #targets(listed: readonly ListedTarget[], apps: readonly ServedApp[]): Promise<void> {
    const targets = listed.map((target) => this.#withSpeed(target));
    const first = this.#state.apps === undefined;
    this.#change({ targets, apps });
    const current = this.#current;
    const now = current && targets.find(({ recording }) => recording?.id === current.writer.recordingId);
    if (current !== undefined && now?.recording != null && this.#isRunning() && !isEnding(current)) {
      const paused = now.recording.state === 'paused';
      current.targetTitle = now.title || current.targetTitle;
      current.state = paused ? 'paused' : 'recording';
      current.elapsedBefore = now.recording.elapsedMs;
      current.runningSince = Date.now();
      this.#changed();
    }
    if (now === undefined && (current?.state === 'recording' || current?.state === 'paused'))
      this.#expectNextPage();
    if (first) await this.#takeUpUnfinished(targets);
    else await this.#stopEnded(targets);
  }

  /** A page that goes on with a recording that has ended meanwhile is told so. */
  async #stopEnded(targets: readonly LiveTarget[]): Promise<void> {
    for (const { id: targetId, recording } of targets) {
      const recordingId = recording?.id;
      if (recordingId === undefined || recordingId === this.#current?.writer.recordingId) continue;
      const kept = await this.store.get(recordingId);
      if (kept !== undefined && kept.state !== 'recording')
        this.#send({ type: 'stop', targetId, recordingId });
    }
  }

  #withSpeed(target: ListedTarget): LiveTarget {
    if (target.calculationMs === undefined) return target;
    this.#calculationMs ??= measureCalculation(() => performance.now());
    return { ...target, speed: slowerBy(target.calculationMs, this.#calculationMs) };
  }

  /** Keeps a file that a program has sent. */
  async #received(file: Blob): Promise<void> {
    const number = (this.#state.received?.number ?? 0) + 1;
    try {
      const { id } = await importFile(this.store, file, () => undefined);
      this.#change({ received: { number, id } });
    } catch (error) {
      this.#change({ received: { number, failure: failureOf(error) } });
    }
  }

  /** After a reload of the tool: goes on with what still runs, and ends what does not. */
  async #takeUpUnfinished(targets: readonly LiveTarget[]): Promise<void> {
    for (const kept of await this.store.unfinished()) {
      const release = await takeRecording(kept.id);
      if (release === undefined) {
        this.#writtenElsewhere(kept.id);
        continue;
      }
      const target = targets.find(({ recording }) => recording?.id === kept.id);
      if (target !== undefined && this.#current === undefined) {
        this.#follow(target, kept.id, 'recording', { kept, release });
        this.#send({ type: 'follow', targetId: target.id, recordingId: kept.id });
      } else if (target === undefined) {
        const events = {
          acknowledge: () => undefined,
          askAgain: () => undefined,
          onChange: () => undefined,
          onEnd: release,
          onError: release,
          ...this.#server(),
        };
        new RecordingWriter(kept.id, this.store, events, kept).end('interrupted');
      } else release();
    }
  }

  /** Says that another tab writes a recording, and goes on with it when that tab is gone. */
  #writtenElsewhere(recordingId: string): void {
    this.#change({ elsewhere: true });
    void untilFree(recordingId).then(() => {
      this.#change({ elsewhere: false });
      return this.#takeUpUnfinished(this.#state.targets);
    });
  }

  #targetLeft(recordingId: string | null): void {
    const current = this.#current;
    if (current?.writer.recordingId === recordingId) this.#expectNextPage();
  }

  /**
   * The page that was recorded is gone: the next one of its tab goes on, or else the recording ends.
   * @param wasStopping whether it was about to end by itself, and had time for it
   */
  #expectNextPage(wasStopping = false): void {
    const current = this.#current;
    setTimeout(() => {
      if (current === undefined || current !== this.#current || !this.#isRunning()) return;
      if (current.state === 'finishing') return;
      if (this.#state.connection !== 'open' || this.#targetNow(current) !== undefined) return;
      if (current.state === 'stopping' && !wasStopping) {
        this.#expectNextPage(true);
        return;
      }
      // That it has ended is said once it is whole on the disk.
      current.state = 'finishing';
      current.writer.end('target-left');
      this.#changed();
    }, BETWEEN_PAGES_MS);
  }

  #expectAnswer(): void {
    clearTimeout(this.#answerTimer);
    const current = this.#current!;
    const stateThen = current.state;
    this.#answerTimer = setTimeout(() => {
      if (this.#current !== current || current.state !== stateThen) return;
      current.problem = 'no-answer';
      if (stateThen === 'starting') current.state = 'failed';
      this.#changed();
    }, ANSWER_MS);
  }

  #progress(current: Current): void {
    if (current.state === 'starting' || current.state === 'waiting-for-load') current.state = 'recording';
    this.#changed();
  }

  /** The page has answered, with all it had. */
  #finishes(current: Current): void {
    if (!this.#isRunning()) return;
    clearTimeout(this.#answerTimer);
    if (current.problem === 'no-answer') delete current.problem;
    current.state = 'finishing';
    this.#changed();
  }

  #ended(current: Current, reason: string): void {
    current.state = 'ended';
    current.release();
    if (reason === 'target-left') current.problem = 'target-left';
    this.#changed();
  }

  #failed(current: Current, error: Error, kept: boolean): void {
    this.#send({ type: 'stop', targetId: current.targetId, recordingId: current.writer.recordingId });
    current.state = kept ? 'ended' : 'failed';
    current.release();
    current.problem = error instanceof StoreFullError ? 'store-full' : 'bad-rows';
    this.#changed();
  }

  #send(command: Command): void {
    this.#socket?.send(command);
  }

  #change(part: Partial<LiveState>): void {
    this.#state = { ...this.#state, ...part };
    this.#changed();
  }

  /** Tells the interface, at most ten times a second. */
  #changed(): void {
    if (this.#isScheduled) return;
    this.#isScheduled = true;
    setTimeout(() => {
      this.#isScheduled = false;
      const cutOff = this.#state.connection !== 'open' && this.#isRunning();
      const recording = this.#current === undefined ? null : describe(this.#current, cutOff, this.#roomBytes);
      this.tell({ ...this.#state, recording });
    }, TELL_EVERY_MS);
  }
}
