import type { Entries } from './entries';
import { replaceMethod } from './replace';

/** Times the dialogs that hold script up until a person answers (HTML, simple dialogs and printing). */
export function wrapDialogs(entries: Entries): void {
  for (const name of 'alert confirm prompt print'.split(' ')) {
    replaceMethod(
      globalThis,
      name,
      (original) =>
        function (this: unknown) {
          const openedMs = performance.now();
          try {
            return Reflect.apply(original, this, arguments) as unknown;
          } finally {
            entries.paused(openedMs);
          }
        },
    );
  }
}
