import type { Capture } from '../capture/capture';
import type { RecordingSession } from '../session';
import type { ScriptEntryTracker } from '../wrap/script-entries';
import { markInternal } from '../wrap/internal';
import type { PendingFrames } from '../wrap/pending-frames';
import type { Mutations } from './mutations';
import type { ProbeSteps } from './probe-steps';
import { cancelAnimationFrame, listen, now, requestAnimationFrame, send } from '../natives';

/** Script that ran as long as this may have changed what no observer tells of. */
const WORTH_A_LOOK_MS = 1;

/** What a frame cost, with the times of `performance.now()` between its steps. */
export interface RenderedFrame {
  readonly startMs: number;
  readonly styledMs: number;
  readonly laidOutMs: number;
  readonly paintedMs: number;
}

/**
 * Style, layout and paint of each frame in which something happened: at the end of its last frame callback does
 * what the browser is about to do and times it, which costs the frame nothing, as the results are kept. It is
 * armed only by what happens, so a page at rest stays at rest. That of a frame has its page's armed too, which tells of
 * the frames of both.
 */
export class RenderProbe implements Capture {
  readonly name = 'render-probe';
  readonly available = true;
  readonly #channel = new MessageChannel();
  readonly #onRendered: ((frame: RenderedFrame) => void)[] = [];
  readonly #onLaidOut: (() => void)[] = [];
  #session: RecordingSession | undefined;
  #armed = 0;
  #measuring: Omit<RenderedFrame, 'paintedMs'> | undefined;

  constructor(
    private readonly steps: ProbeSteps,
    private readonly mutations: Mutations,
    private readonly frames: PendingFrames,
    entries: ScriptEntryTracker,
    private readonly ofPage?: RenderProbe,
  ) {
    listen(
      this.#channel.port1,
      'message',
      markInternal(() => this.#painted()),
    );
    this.#channel.port1.start();
    mutations.onChange(() => this.arm());
    entries.onEnd((durationMs) => {
      if (durationMs >= WORTH_A_LOOK_MS) this.arm();
    });
    frames.onLast(() => this.#probe());
  }

  /** @param listener is called with each frame that was probed, once its picture has been handed on */
  onRendered(listener: (frame: RenderedFrame) => void): void {
    this.#onRendered.push(listener);
  }

  /** @param listener is called when layout is done, while asking for geometry costs nothing */
  onLaidOut(listener: () => void): void {
    this.#onLaidOut.push(listener);
  }

  start(session: RecordingSession): void {
    this.#session = session;
  }

  stop(): void {
    this.#session = undefined;
    cancelAnimationFrame(this.#armed);
    this.frames.cancel(this.#armed);
    this.#armed = 0;
  }

  /** Has the next frame probed. */
  arm(): void {
    this.ofPage?.arm();
    if (this.#session === undefined || this.#armed !== 0) return;
    const handle = requestAnimationFrame(
      markInternal(() => {
        this.frames.begin(handle);
        this.#armed = 0;
        this.frames.ran(handle);
      }),
    );
    this.#armed = handle;
    this.frames.add(handle);
  }

  #probe(): void {
    if (this.#session === undefined || this.#measuring !== undefined) return;
    const startMs = now();
    this.steps.style();
    const styledMs = now();
    this.steps.layout();
    const laidOutMs = now();
    this.mutations.isDirty();
    this.mutations.clean();
    this.mutations.resume();
    for (const listener of this.#onLaidOut) listener();
    this.#measuring = { startMs, styledMs, laidOutMs };
    send(this.#channel.port2);
  }

  #painted(): void {
    const measured = this.#measuring;
    const session = this.#session;
    this.#measuring = undefined;
    if (measured === undefined || session === undefined) return;
    const frame = { ...measured, paintedMs: now() };
    const { startMs, styledMs, laidOutMs, paintedMs } = frame;
    if (!this.ofPage) {
      session.lasted('render', startMs, paintedMs - startMs, {
        styleMs: session.length(styledMs - startMs),
        layoutMs: session.length(laidOutMs - styledMs),
        paintMs: session.length(paintedMs - laidOutMs),
      });
    }
    for (const listener of this.#onRendered) listener(frame);
  }
}
