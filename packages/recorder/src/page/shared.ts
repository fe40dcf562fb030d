/** Where a window's recorder leaves what it shares with those of windows of its origin that it can reach. */
const KEY = Symbol.for('nettle-patch recorder');

/**
 * What the recorders of such windows know together, as functions and listeners go from one window to another: which
 * function stands for which.
 */
interface Shared {
  /** What the app wrote of the text of a function. */
  asWritten(text: string): string;
  /** What rewritten scripts need of a window's recorder, until its own file has taken it: `RewrittenTools`. */
  rewritten?: object | undefined;
  /** By what fine mode samples, where pages come in it: a `FineSamples`. */
  fine?: object;
  /** Makes a window's recorder a part of that of the window around it, where its file is there: a `StartFrame`. */
  startFrame?: object;
  /** By a window whose recorder takes in its frames: what it lends to them, a `Host`. */
  readonly hosts: WeakMap<object, object>;
  /** By a function that was put in place of another: that one. */
  readonly stoodFor: WeakMap<object, object>;
  /** By a listener of the app: what is given to the browser for it. */
  readonly replacements: WeakMap<object, object>;
  /** By what is given to the browser: the listener. */
  readonly originals: WeakMap<object, object>;
}

type Sharing = typeof globalThis & { [KEY]?: Shared };

function sharedOf(scope: unknown): Shared | undefined {
  try {
    return (scope as Sharing | null | undefined)?.[KEY];
  } catch {
    return undefined;
  }
}

const scope = globalThis as Sharing;

export const shared: Shared = sharedOf(scope) ??
  sharedOf(scope.parent) ??
  sharedOf(scope.opener) ?? {
    asWritten: (text) => text,
    hosts: new WeakMap(),
    stoodFor: new WeakMap(),
    replacements: new WeakMap(),
    originals: new WeakMap(),
  };

/** What the recorder of this window shares, for files that come before it and are asked after it. */
export function sharedByNow(): Shared | undefined {
  return sharedOf(scope);
}

/** @returns whether a window has a recorder of its own */
export function hasRecorder(of: object): boolean {
  return Object.hasOwn(of, KEY);
}

/** Notes that this window has one. */
export function installed(): void {
  Object.defineProperty(scope, KEY, { value: shared });
}
