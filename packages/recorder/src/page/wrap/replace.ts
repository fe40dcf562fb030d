import { standsFor } from '../exact/function-text';

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- functions of any signature are replaced
export type AnyFunction = (this: any, ...args: any[]) => any;

/** Makes a function look like the one it stands for: name, length and text. */
export function disguise<F extends AnyFunction>(replacement: F, original: AnyFunction): F {
  for (const name of ['name', 'length'] as const) {
    Object.defineProperty(replacement, name, { value: original[name], configurable: true });
  }
  standsFor(replacement, original);
  return replacement;
}

/** Replaces a method where there is one. @param make gets the original and gives what is put in its place */
export function replaceMethod(
  owner: object | undefined,
  name: string,
  make: (original: AnyFunction) => AnyFunction,
): void {
  const descriptor = owner && Object.getOwnPropertyDescriptor(owner, name);
  const original: unknown = descriptor?.value;
  if (!descriptor?.configurable || typeof original !== 'function') return;
  const { [name]: replacement } = { [name]: make(original as AnyFunction) };
  Object.defineProperty(owner, name, {
    ...descriptor,
    value: disguise(replacement!, original as AnyFunction),
  });
}

interface Accessor {
  readonly get?: (original: AnyFunction) => AnyFunction;
  readonly set?: (original: AnyFunction) => AnyFunction;
}

/** Replaces the getter, the setter or both of a property where it has them. */
export function replaceAccessor(owner: object | undefined, name: string, make: Accessor): void {
  const descriptor = owner && Object.getOwnPropertyDescriptor(owner, name);
  if (!descriptor?.configurable || descriptor.get === undefined) return;
  const { get, set } = descriptor as { get: AnyFunction; set: AnyFunction | undefined };
  Object.defineProperty(owner, name, {
    ...descriptor,
    ...(make.get === undefined ? {} : { get: disguise(make.get(get), get) }),
    ...(make.set === undefined || set === undefined ? {} : { set: disguise(make.set(set), set) }),
  });
}

/** Replaces a global class by one that does something with the arguments it is made with. */
export function replaceClass(
  name: string,
  construct: (original: AnyFunction, args: unknown[], newTarget: AnyFunction) => object,
): void {
  const scope = globalThis as unknown as Record<string, AnyFunction | undefined>;
  const original = scope[name];
  if (original === undefined) return;
  const replacement: AnyFunction = new Proxy(original, {
    construct: (_target, args: unknown[], newTarget): object =>
      construct(original, args, (newTarget === replacement ? original : newTarget) as AnyFunction),
  });
  const descriptor = Object.getOwnPropertyDescriptor(scope, name);
  if (!descriptor?.configurable) return;
  Object.defineProperty(scope, name, { ...descriptor, value: replacement });
  Object.defineProperty((original as unknown as { prototype: object }).prototype, 'constructor', {
    value: replacement,
    writable: true,
    configurable: true,
    enumerable: false,
  });
}
