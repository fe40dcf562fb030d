import type { Capture } from '../page/capture/capture';
import { listen, now, stopListening } from '../page/natives';
import type { RecordingSession } from '../page/session';
import { StepRecorder, type KeptStep } from './step-recorder';

const TYPES = [
  'pointerdown',
  'pointermove',
  'pointerup',
  'pointercancel',
  'dragstart',
  'dragend',
  'drop',
  'dblclick',
  'wheel',
  'scroll',
  'keydown',
  'input',
  'change',
];

/** Keeps what a person does as steps, so that it can be done again. */
export class StepCapture implements Capture {
  readonly name = 'steps';
  readonly available = true;
  #session: RecordingSession | undefined;
  #keeper: StepRecorder;

  /** @param keepsTexts whether what is typed is kept, and not its length only */
  constructor(private readonly keepsTexts: boolean) {
    this.#keeper = new StepRecorder(keepsTexts);
  }

  start(session: RecordingSession): void {
    this.#session = session;
    this.#keeper = new StepRecorder(this.keepsTexts && session.words !== false);
    for (const type of TYPES) {
      listen(window, type, this.#listener, { capture: true, passive: true });
    }
  }

  collect(): void {
    this.#emit(this.#keeper.take(now()));
  }

  stop(): void {
    for (const type of TYPES) stopListening(window, type, this.#listener, { capture: true });
    this.#emit(this.#keeper.takeAll());
    this.#session = undefined;
  }

  readonly #listener = (event: Event): void => {
    this.#session?.charged('steps', () => this.#keeper.handle(event));
  };

  #emit(steps: readonly KeptStep[]): void {
    const session = this.#session;
    for (const { startMs, endMs, step } of steps) {
      session?.emit({
        kind: 'step',
        startMs: session.time(startMs),
        durationMs: session.length(endMs - startMs),
        step: JSON.stringify(step),
      });
    }
  }
}
