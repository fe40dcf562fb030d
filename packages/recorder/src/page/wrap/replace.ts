import { standsFor } from '../exact/function-text';
import { getOwnPropertyDescriptor } from '../natives';

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- functions of any signature are replaced
export type AnyFunction = (this: any, ...args: any[]) => any;

/**
 * What is put in place of a function. It is written as a method: as those of the engine it cannot be called with `new`
 * and has no property `prototype`.
 */
export interface Replacement {
  instead: AnyFunction;
}

type Make = (original: AnyFunction) => Replacement;

/** Makes a function look like the one it stands for: name, length and text. */
function disguise({ instead }: Replacement, original: AnyFunction): AnyFunction {
  for (const name of ['length', 'name'] as const) {
    Object.defineProperty(instead, name, { value: original[name], configurable: true });
  }
  standsFor(instead, original);
  return instead;
}

/** Replaces a method where there is one. @param make gets the original and gives what is put in its place */
export function replaceMethod(owner: object | undefined, name: string, make: Make): void {
  const descriptor = owner && getOwnPropertyDescriptor(owner, name);
  const original: unknown = descriptor?.value;
  if (!descriptor?.configurable || typeof original !== 'function') return;
  descriptor.value = disguise(make(original as AnyFunction), original as AnyFunction);
  Object.defineProperty(owner, name, descriptor);
}

interface Accessor {
  readonly get?: Make;
  readonly set?: Make;
}

/** Replaces the getter, the setter or both of a property where it has them. */
export function replaceAccessor(owner: object | undefined, name: string, { get, set }: Accessor): void {
  const descriptor = owner && getOwnPropertyDescriptor(owner, name);
  if (!descriptor?.configurable || descriptor.get === undefined) return;
  if (get !== undefined) descriptor.get = disguise(get(descriptor.get), descriptor.get);
  if (set !== undefined && descriptor.set !== undefined) {
    descriptor.set = disguise(set(descriptor.set), descriptor.set);
  }
  Object.defineProperty(owner, name, descriptor);
}

/** Replaces a global class by one that does something with the arguments it is made with. */
export function replaceClass(
  name: string,
  make: (original: AnyFunction, args: unknown[], newTarget: AnyFunction) => object,
): void {
  const descriptor = getOwnPropertyDescriptor(globalThis, name);
  const original = descriptor?.value as AnyFunction | undefined;
  if (!descriptor?.configurable || original === undefined) return;
  const replacement: AnyFunction = new Proxy(original, {
    construct: (_target, args: unknown[], newTarget): object =>
      make(original, args, (newTarget === replacement ? original : newTarget) as AnyFunction),
  });
  standsFor(replacement, original);
  Object.defineProperty(globalThis, name, { ...descriptor, value: replacement });
  Object.defineProperty((original as unknown as { prototype: object }).prototype, 'constructor', {
    value: replacement,
    writable: true,
    configurable: true,
    enumerable: false,
  });
}
