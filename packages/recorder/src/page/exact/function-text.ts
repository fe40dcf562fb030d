import { apply } from '../natives';
import { shared } from '../shared';

const nativeText = Function.prototype.toString;

/** Has a function the recorder put in place of another tell that one's text. */
export function standsFor(replacement: object, original: object): void {
  shared.stoodFor.set(replacement, shared.stoodFor.get(original) ?? original);
}

/** The text of a function as the app wrote it. */
export function originalText(of: object): string {
  return shared.asWritten(apply(nativeText, shared.stoodFor.get(of) ?? of, []) as string);
}

/**
 * Makes functions show the text they had before they were rewritten, and replaced ones that of the function
 * they stand for, as programs compare or evaluate it.
 * @param prototype of the functions of a window
 */
export function keepFunctionText(prototype: object = Function.prototype): void {
  const { toString } = {
    toString(this: object): string {
      return originalText(this);
    },
  };
  standsFor(toString, prototype.toString);
  Object.defineProperty(prototype, 'toString', {
    value: toString,
    writable: true,
    configurable: true,
    enumerable: false,
  });
}
