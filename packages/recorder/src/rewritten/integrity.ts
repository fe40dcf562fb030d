import { apply } from '../page/natives';
import { replaceAccessor, replaceMethod } from '../page/wrap/replace';

/** Hashes that the app gave, of texts that come rewritten: elements tell of them, and the browser is not told. */
const given = new WeakMap<object, string>();
const NAME = 'integrity';

/** Whether what an element loads is a script, which comes with other bytes than it was written with. */
function loadsScript(element: unknown): element is Element {
  if (element instanceof HTMLScriptElement) return true;
  if (!(element instanceof HTMLLinkElement)) return false;
  return (
    element.relList.contains('modulepreload') ||
    (element.relList.contains('preload') && element.as === 'script')
  );
}

/**
 * Has scripts with a hash of their text (W3C Subresource Integrity) load all the same when they come rewritten. The page
 * reads back what it has set.
 */
export function keepIntegrity(): void {
  for (const { prototype } of [HTMLScriptElement, HTMLLinkElement]) {
    replaceAccessor(prototype, NAME, {
      get: (original) => ({
        instead() {
          return given.get(this as object) ?? (apply(original, this, []) as string);
        },
      }),
      set: (original) => ({
        instead(value: unknown) {
          if (loadsScript(this)) given.set(this, String(value));
          else apply(original, this, [value]);
        },
      }),
    });
  }
  const about = (element: unknown, name: unknown): element is Element =>
    typeof name === 'string' && name.toLowerCase() === NAME && loadsScript(element);
  const replace = (name: string, instead: (element: Element, value: unknown) => unknown) =>
    replaceMethod(Element.prototype, name, (original) => ({
      instead(...args: unknown[]) {
        const isMeant = about(this, args[0]) && (name === 'setAttribute' ? args.length > 1 : given.has(this));
        return isMeant ? instead(this as Element, args[1]) : (apply(original, this, args) as unknown);
      },
    }));
  replace('setAttribute', (element, value) => void given.set(element, String(value)));
  replace('getAttribute', (element) => given.get(element));
  replace('hasAttribute', () => true);
  replace('removeAttribute', (element) => void given.delete(element));
}
