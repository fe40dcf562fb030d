import { apply } from '../natives';
import { hasRecorder } from '../shared';
import { guarded } from './internal';
import { replaceAccessor, replaceMethod } from './replace';

type Watch = (scope: typeof globalThis) => void;

const watched = new WeakSet<object>();

/** Watches a window of this origin that no recorder was put into; one of another origin says nothing. */
function tryToWatch(found: unknown, watch: Watch): void {
  const scope = (found instanceof Document ? found.defaultView : found) as typeof globalThis | null;
  try {
    if (!scope || hasRecorder(scope) || watched.has(scope.Function)) return;
    watched.add(scope.Function);
  } catch {
    return;
  }
  guarded(() => watch(scope));
}

/**
 * Watches the windows that the app reaches through the elements of its frames or opens, before it gets them: listeners
 * of this page may be removed by their functions, and texts of its functions be asked for.
 */
export function wrapFrames(watch: Watch): void {
  for (const owner of [HTMLIFrameElement, HTMLFrameElement, HTMLObjectElement]) {
    for (const name of ['contentWindow', 'contentDocument']) {
      replaceAccessor(owner.prototype, name, {
        get: (original) => ({
          instead() {
            const found: unknown = apply(original, this, []);
            tryToWatch(found, watch);
            return found;
          },
        }),
      });
    }
  }
  replaceMethod(globalThis, 'open', (original) => ({
    instead(...args) {
      const found: unknown = apply(original, this, args);
      tryToWatch(found, watch);
      return found;
    },
  }));
}
