import { keepFunctionText } from '../page/exact/function-text';
import { replaceAccessor, replaceMethod } from '../page/wrap/replace';

const RECORDER = Symbol.for('nettle-patch recorder');
const kept = new WeakSet<object>();

type Frame = Window & { Function: FunctionConstructor; [RECORDER]?: true };

/** Has the functions of a window of this origin, which no recorder was put into, show texts as they were written. */
function keepTextIn(frame: Frame): void {
  if (frame[RECORDER] || kept.has(frame.Function)) return;
  kept.add(frame.Function);
  keepFunctionText(frame.Function.prototype);
}

/** A window of another origin says nothing. */
function tryToKeepTextIn(found: unknown): void {
  try {
    if (found instanceof Document) tryToKeepTextIn(found.defaultView);
    else if (typeof found === 'object' && found !== null) keepTextIn(found as Frame);
  } catch {
    return;
  }
}

/**
 * The same for all frames that the app reaches through their elements or opens, before it gets them: their own
 * `Function.prototype.toString` can be called on functions of this page.
 */
export function keepTextInFrames(): void {
  for (const { prototype } of [HTMLIFrameElement, HTMLFrameElement, HTMLObjectElement]) {
    for (const name of ['contentWindow', 'contentDocument']) {
      replaceAccessor(prototype, name, {
        get: (original) =>
          function (this: unknown) {
            const found: unknown = Reflect.apply(original, this, []);
            tryToKeepTextIn(found);
            return found;
          },
      });
    }
  }
  replaceMethod(
    globalThis,
    'open',
    (original) =>
      function (this: unknown) {
        const found: unknown = Reflect.apply(original, this, arguments);
        tryToKeepTextIn(found);
        return found;
      },
  );
}
