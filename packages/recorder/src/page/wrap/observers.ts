import { construct } from '../natives';
import { replaceClass, type AnyFunction } from './replace';
import type { ScriptEntryTracker } from './script-entries';

const OBSERVERS = ['MutationObserver', 'ResizeObserver', 'IntersectionObserver', 'PerformanceObserver'];

/** Replaces the classes of observers, so that the calls of their callbacks are seen. */
export function wrapObservers(entries: ScriptEntryTracker): void {
  for (const name of OBSERVERS) {
    replaceClass(name, (original, args, newTarget) => {
      const [callback] = args;
      if (typeof callback === 'function') {
        args[0] = function (this: unknown) {
          const about = { type: 'user-callback', invoker: name } as const;
          return entries.run(callback as AnyFunction, this, arguments, about);
        };
      }
      return construct(original, args, newTarget) as object;
    });
  }
}
