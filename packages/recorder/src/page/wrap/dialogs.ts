import { apply, now } from '../natives';
import type { ScriptEntryTracker } from './script-entries';
import { replaceMethod } from './replace';

/** Times the dialogs that hold script up until a person answers (HTML, simple dialogs and printing). */
export function wrapDialogs(entries: ScriptEntryTracker): void {
  for (const name of 'alert confirm prompt print'.split(' ')) {
    replaceMethod(globalThis, name, (original) => ({
      instead(...args) {
        const openedMs = now();
        try {
          return apply(original, this, args) as unknown;
        } finally {
          entries.paused(openedMs);
        }
      },
    }));
  }
}
