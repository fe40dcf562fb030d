import { elementLabel } from '../element-label';
import type { RecordingSession } from '../session';
import { NextTask } from '../next-task';
import { ours } from '../wrap/ours';
import type { Capture } from './capture';

const POINTER_TYPES = ['pointerdown', 'pointerup', 'click'] as const;
const KEY_TYPES = ['keydown', 'keyup', 'input'] as const;
const BEGINNINGS = new Set<string>(['pointerdown', 'keydown']);

interface SeenInput {
  readonly type: string;
  readonly startMs: number;
  readonly processingStartMs: number;
  processingEndMs: number;
  readonly interaction: number;
  readonly label: string;
}

/**
 * Inputs and their delay, where the engine has no Event Timing: the recorder's own listeners at the window's
 * capture phase, which as those of the first script come before all others. Handling ends with the task that
 * dispatched the event. The answer is taken to be on the screen when the frame after the one that painted it
 * begins: engines begin it once the display has taken the picture. That is up to a frame or two earlier than
 * the moment Event Timing gives.
 */
export function inputListeners(): Capture {
  let session: RecordingSession | undefined;
  let tasks: NextTask | undefined;
  let arrived: SeenInput[] = [];
  let painting: SeenInput[] = [];
  let frame = 0;
  const interactionOf = { pointer: 0, key: 0 };
  let interactions = 0;

  const emit = (input: SeenInput, answeredMs: number) => {
    session?.emit({
      kind: 'input',
      thread: session.thread,
      startMs: session.time(input.startMs),
      durationMs: Math.max(0, Math.round((answeredMs - input.startMs) * 1000) / 1000),
      type: input.type,
      processingStartMs: session.time(input.processingStartMs),
      processingEndMs: session.time(input.processingEndMs),
      interaction: input.interaction,
      target: input.label,
    });
  };

  /** The frame that begins now answers what came before the last one began, and paints what came since. */
  const onFrame = ours(() => {
    const answeredMs = performance.now();
    for (const input of painting) emit(input, answeredMs);
    painting = arrived;
    arrived = [];
    frame = painting.length > 0 ? requestAnimationFrame(onFrame) : 0;
  });

  const onInput = ours((event: Event) => {
    const processingStartMs = performance.now();
    if (!event.isTrusted) return;
    const device = (KEY_TYPES as readonly string[]).includes(event.type) ? 'key' : 'pointer';
    if (BEGINNINGS.has(event.type) || interactionOf[device] === 0) interactionOf[device] = ++interactions;
    const input: SeenInput = {
      type: event.type,
      startMs: event.timeStamp,
      processingStartMs,
      processingEndMs: processingStartMs,
      interaction: interactionOf[device],
      label: elementLabel(event.composedPath()[0]),
    };
    arrived.push(input);
    tasks?.call(() => (input.processingEndMs = performance.now()));
    if (frame === 0) frame = requestAnimationFrame(onFrame);
  });

  const types = [...POINTER_TYPES, ...KEY_TYPES];
  return {
    name: 'input-listeners',
    available: true,
    start(into) {
      session = into;
      tasks = new NextTask();
      for (const type of types) addEventListener(type, onInput, { capture: true, passive: true });
    },
    stop() {
      for (const type of types) removeEventListener(type, onInput, { capture: true });
      cancelAnimationFrame(frame);
      tasks?.close();
      tasks = undefined;
      frame = 0;
      arrived = [];
      painting = [];
      session = undefined;
    },
  };
}
