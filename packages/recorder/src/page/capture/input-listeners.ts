import { elementLabel } from '../element-label';
import type { RenderProbe } from '../layout/render-probe';
import { refreshInterval } from '../refresh';
import { NextTask } from '../next-task';
import type { RecordingSession } from '../session';
import { ours } from '../wrap/ours';
import type { Capture } from './capture';
import { InteractionNumbers } from './interaction-numbers';

const TYPES = ['pointerdown', 'pointerup', 'click', 'keydown', 'keyup', 'input'] as const;

interface SeenInput {
  readonly type: string;
  readonly startMs: number;
  readonly processingStartMs: number;
  /** Undefined until the task that dispatched it has ended. */
  processingEndMs: number | undefined;
  readonly interaction: number;
  readonly label: string;
}

/**
 * Inputs and their delay, where the engine has no Event Timing: the recorder's own listeners at the window's
 * capture phase, which as those of the first script come before all others. Handling ends with the task that
 * dispatched the event. The answer is taken to be on the screen when the render probe finds the next frame
 * painted and the display has had one refresh to take it.
 */
export function inputListeners(probe: RenderProbe): Capture {
  let session: RecordingSession | undefined;
  let tasks: NextTask | undefined;
  let waiting: SeenInput[] = [];
  const numbers = new InteractionNumbers();

  probe.onRendered(({ startMs, paintedMs }) => {
    const answered = waiting.filter((input) => input.processingStartMs <= startMs);
    waiting = waiting.filter((input) => input.processingStartMs > startMs);
    for (const input of answered) {
      session?.emit({
        kind: 'input',
        thread: session.thread,
        startMs: session.time(input.startMs),
        durationMs: session.length(paintedMs + refreshInterval() - input.startMs),
        type: input.type,
        processingStartMs: session.time(input.processingStartMs),
        processingEndMs: session.time(input.processingEndMs ?? startMs),
        interaction: input.interaction,
        target: input.label,
      });
    }
    if (waiting.length > 0) probe.arm();
  });

  const onInput = ours((event: Event) => {
    const processingStartMs = performance.now();
    if (!event.isTrusted) return;
    const input: SeenInput = {
      type: event.type,
      startMs: event.timeStamp,
      processingStartMs,
      processingEndMs: undefined,
      interaction: numbers.of(event.type),
      label: elementLabel(event.composedPath()[0]),
    };
    waiting.push(input);
    tasks?.call(() => (input.processingEndMs = performance.now()));
    probe.arm();
  });

  return {
    name: 'input-listeners',
    available: true,
    start(into) {
      session = into;
      tasks = new NextTask();
      for (const type of TYPES) addEventListener(type, onInput, { capture: true, passive: true });
    },
    stop() {
      for (const type of TYPES) removeEventListener(type, onInput, { capture: true });
      tasks?.close();
      tasks = undefined;
      waiting = [];
      session = undefined;
    },
  };
}
