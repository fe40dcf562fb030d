import type { Capture } from '../page/capture/capture';
import { InteractionNumbers } from '../page/capture/interaction-numbers';
import { listen, now, requestAnimationFrame, stopListening } from '../page/natives';
import type { NextTask } from '../page/next-task';
import type { Lent } from '../page/capture-registry';
import type { RecordingSession } from '../page/session';

const TYPES = ['pointerdown', 'pointerup', 'pointercancel', 'click', 'keydown', 'keyup', 'input'] as const;

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
 * dispatched the event. Of the picture itself no script is told: once a frame is painted, at most one waits for the
 * display, so the answer is on the screen between the starts of the next two frames. The middle is taken, and no
 * later than two refreshes after painting, as script may keep those frames waiting.
 */
export function inputListeners({
  probe,
  elementLabel,
  NextTask,
  markInternal,
  refreshInterval,
}: Lent): Capture {
  let session: RecordingSession | undefined;
  let tasks: NextTask | undefined;
  /** What was not told yet. */
  const waiting = new Set<SeenInput>();
  const numbers = new InteractionNumbers();

  /** Calls back in the next frame, with the time at which its callbacks ran. */
  const afterFrame = (callback: (nowMs: number) => void) =>
    requestAnimationFrame(markInternal(() => callback(now())));

  probe.onRendered(({ startMs, paintedMs }) => {
    const answered = [...waiting].filter((input) => input.processingStartMs <= startMs);
    if (answered.length < waiting.size) probe.arm();
    if (answered.length === 0) return;
    afterFrame((nextMs) =>
      afterFrame((secondMs) => {
        const shownMs = Math.min((nextMs + secondMs) / 2, paintedMs + 2 * refreshInterval());
        for (const input of answered) if (waiting.delete(input)) tell(input, startMs, shownMs);
      }),
    );
  });

  function tell(input: SeenInput, frameMs: number, shownMs: number, about = {}): void {
    session?.lasted('input', input.startMs, shownMs - input.startMs, {
      ...about,
      type: input.type,
      processingStartMs: session.time(input.processingStartMs),
      processingEndMs: session.time(input.processingEndMs ?? frameMs),
      interaction: input.interaction + session.firstId,
      target: input.label,
    });
  }

  const onInput = markInternal((event: Event) => {
    const processingStartMs = now();
    if (!event.isTrusted) return;
    const input: SeenInput = {
      type: event.type,
      startMs: event.timeStamp,
      processingStartMs,
      processingEndMs: undefined,
      interaction: numbers.of(event.type),
      label: elementLabel(event.composedPath()[0]),
    };
    waiting.add(input);
    tasks?.call(() => (input.processingEndMs = now()));
    probe.arm();
  });

  return {
    name: 'input-listeners',
    available: true,
    start(into) {
      session = into;
      tasks = new NextTask();
      for (const type of TYPES) listen(globalThis, type, onInput, { capture: true, passive: true });
    },
    stop(leaving) {
      // What the page is left by is never answered in it.
      if (leaving) for (const input of waiting) tell(input, now(), 0, { belowMs: now() - input.startMs });
      for (const type of TYPES) stopListening(globalThis, type, onInput, { capture: true });
      tasks?.close();
      tasks = undefined;
      waiting.clear();
      session = undefined;
    },
  };
}
