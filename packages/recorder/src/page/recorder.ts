import { MAX_PAGES, type Command } from '@nettle-patch/core';
import type { OutgoingRow } from '../messages';
import type { Capture } from './capture/capture';
import { isNamedByText, nameByText } from './element-label';
import { framesElsewhere } from './frames-elsewhere';
import { armNextLoad, type Armed } from './next-load';
import { failed, guarded, markInternal, overseeInto } from './wrap/internal';
import { RecordingSession } from './session';
import { capabilitiesOf, describeRecording, type Capabilities } from './target';
import { clearInterval, now, setInterval, setTimeout } from './natives';

/** How long starting may keep the page waiting at a time. */
const START_PIECE_MS = 1.5;
const FLUSH_EVERY_MS = 100;
const COST_EVERY_MS = 1000;
/** Entries about the last input come only after its picture; a recording waits so long for them. */
const LAST_ENTRIES_MS = 150;

/** A batch of rows on its way out. */
export interface OutgoingBatch {
  readonly recordingId: string;
  readonly sequence: number;
  /** How many pages came before in the recording. */
  readonly page: number;
  readonly rows: readonly OutgoingRow[];
  readonly last: boolean;
}

/** A sign of life of the main thread. */
export interface Tick {
  readonly recordingId: string;
  readonly originMs: number;
  readonly atMs: number;
  /** Whether silence after it means that the thread hangs. */
  readonly watch: boolean;
}

/** The recording that runs, as a target tells of it. */
export interface RecorderState {
  readonly id: string;
  readonly state: 'recording' | 'paused';
  readonly elapsedMs: number;
}

interface Running {
  readonly session: RecordingSession;
  sequence: number;
  pausedAtMs: number | undefined;
  costFromMs: number;
  ending: boolean;
}

/** Starts, pauses and stops the captures and hands out what they collect, ten times a second. */
export class Recorder {
  /** Captures that have begun. */
  #captures: Capture[] = [];
  /** What frames capture. */
  readonly #parts = new Set<Capture>();
  #running: Running | undefined;
  #timer: ReturnType<typeof setInterval> | undefined;

  /**
   * @param captures all there are; those this engine lacks are passed over
   * @param send takes each batch
   * @param onChange is called when a recording starts, pauses, goes on or ends
   * @param tellWorkers is called with the recording that workers are to take part in, and with undefined to end
   * @param tick is called as long as the main thread is alive
   */
  constructor(
    private readonly all: readonly Capture[],
    private readonly send: (batch: OutgoingBatch) => void,
    private readonly onChange: () => void,
    private readonly tellWorkers: (running: RecordingSession | undefined) => void = () => {},
    private readonly tick: (tick: Tick) => void = () => {},
  ) {
    overseeInto(() => this.#running?.session);
  }

  /** What this page can give, as far as is known by now. */
  get capabilities(): Capabilities {
    return capabilitiesOf(this.all);
  }

  get state(): RecorderState | null {
    if (this.#running === undefined) return null;
    const { session, pausedAtMs } = this.#running;
    return {
      id: session.id,
      state: pausedAtMs === undefined ? 'recording' : 'paused',
      elapsedMs: Math.max(0, session.time(now())),
    };
  }

  obey(command: Command): void {
    if (command.type === 'start') this.start([command.recordingId], undefined, command.words, command.byText);
    else if (command.type === 'start-with-next-load') armNextLoad(command.recordingId);
    else if (command.type === 'reload') location.reload();
    else if (command.recordingId !== this.#running?.session.id) return;
    else if (command.type === 'pause') this.#pause();
    else if (command.type === 'go-on') this.#goOn();
    else if (command.type === 'stop') this.#stop().catch(failed);
    else if (command.type === 'note') this.#note(command.text ?? '');
  }

  /**
   * @param armed the recording, and what it holds already
   * @param installMs what putting the recorder into the page took, where the recording reaches back to the beginning of
   * the page's load
   * @param words whether typed words may be kept now
   * @param byText whether controls are named by their visible text now
   */
  start(armed: Armed, installMs?: number, words = armed[5], byText = armed[7]): void {
    if (this.#running !== undefined) return;
    const [recordingId, , originEpochMs, sequence = 0, page = 0] = armed;
    const startUp = installMs !== undefined;
    const beganMs = startUp ? 0 : now();
    const originMs = originEpochMs === undefined ? beganMs : originEpochMs - performance.timeOrigin;
    const session = new RecordingSession(recordingId, originMs, startUp, undefined, page);
    session.words = words;
    if (byText !== undefined) nameByText(byText);
    session.charge('install', installMs ?? 0);
    this.#running = { session, sequence, pausedAtMs: undefined, costFromMs: beganMs, ending: false };
    session.charged('start', () => {
      const header = describeRecording(recordingId, this.capabilities, startUp, originMs);
      const thread = { kind: 'thread', id: session.thread, name: 'main thread', type: 'main' } as const;
      this.#send([header, thread], false);
    });
    this.#startCaptures(session);
    this.#timer = setInterval(
      markInternal(() => this.#flush()),
      FLUSH_EVERY_MS,
    );
    this.tellWorkers(session);
    this.#tick();
    this.onChange();
  }

  /** Starts all there is, in pieces that keep the page waiting for a moment only; at start-up all at once. */
  #startCaptures(session: RecordingSession): void {
    const waiting = [...this.all.filter(({ available, always }) => available || always), ...this.#parts];
    const startSome = () => {
      if (this.#running?.session !== session || this.#running.pausedAtMs !== undefined) return;
      const untilMs = now() + START_PIECE_MS;
      while (waiting.length > 0 && (session.startUp || now() < untilMs)) {
        const capture = waiting.shift()!;
        this.#captures.push(capture);
        session.charged(`start ${capture.name}`, () => capture.start(session));
      }
      if (waiting.length > 0) setTimeout(markInternal(startSome));
    };
    startSome();
  }

  /**
   * Takes in what a frame captures.
   * @returns ends it
   */
  takeIn(part: Capture): () => void {
    this.#parts.add(part);
    if (this.#running !== undefined && this.#running.pausedAtMs === undefined) {
      this.#captures.push(part);
      part.start(this.#running.session);
    }
    return () => {
      this.#parts.delete(part);
      const at = this.#captures.indexOf(part);
      if (at >= 0) void this.#captures.splice(at, 1)[0]!.stop(true);
    };
  }

  async #stopCaptures(leaving = false): Promise<void> {
    const started = this.#captures;
    this.#captures = [];
    await Promise.all(started.map((capture) => capture.stop(leaving)));
  }

  /** Hands out what is there, because the page is about to go; the next one of the tab goes on. */
  leave(): OutgoingBatch | undefined {
    const running = this.#running;
    if (running === undefined || running.ending) return undefined;
    void this.#stopCaptures(true);
    const { session, pausedAtMs } = running;
    const { id, page, words } = session;
    this.#closePause(running);
    session.happened('state', now(), { type: 'leave', value: '' });
    const last = this.#end(running);
    if (last && top === self && page < MAX_PAGES) {
      const originEpochMs = performance.timeOrigin + session.originMs;
      armNextLoad(
        id,
        Date.now(),
        originEpochMs,
        last.sequence + 1,
        page + 1,
        words,
        pausedAtMs !== undefined,
        isNamedByText(),
      );
    }
    return last;
  }

  #pause(): void {
    const running = this.#running!;
    if (running.pausedAtMs !== undefined) return;
    running.pausedAtMs = running.session.time(now());
    this.tellWorkers(undefined);
    void this.#stopCaptures();
    this.#emitCost(running);
    this.onChange();
  }

  #goOn(): void {
    const running = this.#running!;
    const { session } = running;
    this.#closePause(running);
    session.startUp = false;
    this.#startCaptures(session);
    this.tellWorkers(session);
    this.onChange();
  }

  #closePause(running: Running): void {
    if (running.pausedAtMs === undefined) return;
    const startMs = running.pausedAtMs;
    const durationMs = running.session.time(now()) - startMs;
    running.session.emit({ kind: 'pause', startMs, durationMs: Math.max(0, durationMs) });
    running.pausedAtMs = undefined;
    running.costFromMs = now();
  }

  #note(text: string): void {
    const { session } = this.#running!;
    session.lasted('span', now(), 0, { type: 'note', name: text });
  }

  async #stop(): Promise<void> {
    const running = this.#running!;
    if (running.ending) return;
    running.ending = true;
    const endMs = running.session.time(now());
    this.tellWorkers(undefined);
    const wasPaused = running.pausedAtMs !== undefined;
    this.#closePause(running);
    if (!wasPaused) {
      await new Promise<void>((resolve) => setTimeout(markInternal(resolve), LAST_ENTRIES_MS));
      await this.#stopCaptures();
    }
    const last = this.#end(running, endMs);
    if (last !== undefined) this.send(last);
    this.onChange();
  }

  /** @param endMs when the recording was ended; not given where it goes on elsewhere */
  #end(running: Running, endMs?: number): OutgoingBatch | undefined {
    if (this.#running !== running) return undefined;
    clearInterval(this.#timer);
    if (running.pausedAtMs === undefined) this.#emitCost(running);
    guarded(() => {
      for (const frame of framesElsewhere()) running.session.drop(`${frame} is not recorded`, 0);
    });
    const last = endMs !== undefined;
    if (last) running.session.emit({ kind: 'end', startMs: endMs, reason: 'stopped' });
    this.#running = undefined;
    const { session, sequence } = running;
    return { recordingId: session.id, sequence, page: session.page, rows: session.takeRows(), last };
  }

  #flush(): void {
    const running = this.#running;
    if (running === undefined) return;
    running.session.charged('collect', () => {
      const paused = running.pausedAtMs !== undefined;
      if (!paused && !running.ending) for (const capture of this.#captures) capture.collect?.();
      if (!paused && now() - running.costFromMs >= COST_EVERY_MS) this.#emitCost(running);
      const rows = running.session.takeRows();
      if (rows.length > 0) this.#send(rows, false);
      this.#tick();
    });
  }

  /** Notes that a batch of a recording was sent which this did not hand out. */
  sentMore(recordingId: string): void {
    if (this.#running?.session.id === recordingId) this.#running.sequence++;
  }

  #tick(): void {
    const { session, pausedAtMs, ending } = this.#running!;
    const watch = pausedAtMs === undefined && !ending && document.visibilityState === 'visible';
    this.tick({ recordingId: session.id, originMs: session.originMs, atMs: now(), watch });
  }

  #emitCost(running: Running): void {
    const { session, costFromMs } = running;
    running.costFromMs = now();
    session.lasted('cost', costFromMs, running.costFromMs - costFromMs, session.takeCost());
  }

  #send(rows: readonly OutgoingRow[], last: boolean): void {
    const running = this.#running!;
    const { id, page } = running.session;
    this.send({ recordingId: id, sequence: running.sequence++, page, rows, last });
  }
}
