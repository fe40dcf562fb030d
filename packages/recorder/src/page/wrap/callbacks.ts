import { apply } from '../natives';
import type { PendingFrames } from './pending-frames';
import { replaceMethod, type AnyFunction } from './replace';
import type { ScriptEntryTracker, Scheduled } from './script-entries';

type Callbacks = Readonly<Record<string, readonly [type: Scheduled['type'], invoker: string]>>;

/** Functions of the window that call back once or again, and how Long Animation Frames names their calls. */
const CALLBACKS: Callbacks = {
  setTimeout: ['timer', 'TimerHandler:setTimeout'],
  setInterval: ['interval', 'TimerHandler:setInterval'],
  requestAnimationFrame: ['frame', 'FrameRequestCallback'],
  requestIdleCallback: ['idle', 'IdleRequestCallback'],
  queueMicrotask: ['microtask', 'MicrotaskCallback'],
};

/** A delay as it is given; one that would have to be converted is the engine's to convert, and not known. Milliseconds. */
function delayOf(given: unknown): number | undefined {
  const isPlain = given === undefined || typeof given === 'number' || typeof given === 'string';
  return isPlain ? Math.max(0, Number(given) || 0) : undefined;
}

/**
 * Replaces the functions that take a callback for later, so that each call is seen with what asked for it.
 * @param owner what has them
 */
export function wrapCallbacks(
  entries: ScriptEntryTracker,
  frames: PendingFrames,
  owner: object = globalThis,
): void {
  for (const [name, [type, invoker]] of Object.entries(CALLBACKS)) {
    replaceMethod(owner, name, (original) => ({
      instead(...args) {
        const callback: unknown = args[0];
        if (typeof callback !== 'function') return apply(original, this, args);
        const delayMs = type === 'timer' || type === 'interval' ? delayOf(args[1]) : undefined;
        const schedule = entries.schedule(type, callback, { delayMs });
        args[0] = function (this: unknown) {
          const about = { type: 'user-callback', invoker, schedule } as const;
          if (type === 'frame') frames.begin(handle);
          try {
            return entries.run(callback as AnyFunction, this, arguments, about);
          } finally {
            if (type === 'frame') frames.ran(handle);
          }
        };
        const handle = apply(original, this, args) as number;
        if (type === 'frame') frames.add(handle);
        return handle;
      },
    }));
  }
  replaceMethod(owner, 'cancelAnimationFrame', (original) => ({
    instead(...args) {
      frames.cancel(args[0] as number);
      return apply(original, this, args);
    },
  }));
}
