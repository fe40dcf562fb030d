import { guarded, markInternal } from '../wrap/internal';
import { apply } from '../natives';
import { replaceMethod } from '../wrap/replace';

/** Without the old values of attributes: for them an engine has to write a style as text at every change of it. */
const WATCHED: MutationObserverInit = {
  subtree: true,
  childList: true,
  attributes: true,
  characterData: true,
  characterDataOldValue: true,
};

/** Shadow trees before it is looked which of them are gone. */
const MIN_PRUNED = 256;

/**
 * Calls that write, since the engine told of changes, after which it is no longer asked to tell: noting each change costs
 * it more than making it, and so many are not looked at one by one.
 */
const FLOOD = 512;

/** What was changed last before a moment. */
export interface LastWrite {
  /** "style", "class", "children", "text", the name of another attribute, or of the function that wrote. */
  readonly what: string;
  readonly target: Node;
}

/** Sees every change of the document, at once when asked and else when the browser tells. */
export class Mutations {
  readonly #observer: MutationObserver;
  readonly #listeners: ((records: readonly MutationRecord[]) => void)[] = [];
  /** Those that are still used. */
  #roots: WeakRef<Node>[] = [];
  #pruneAt = MIN_PRUNED;
  readonly #onWatch: ((on: boolean, passedOver: number) => void)[] = [];
  #watching = false;
  /** Calls that write since the engine told of changes. */
  #untold = 0;
  #dirty = false;
  last: LastWrite | undefined;

  constructor() {
    this.#observer = new MutationObserver(markInternal((records) => this.#take(records)));
  }

  /** Has every shadow tree that is made be watched too: changes in it are not told to its host's observers. */
  install(): void {
    const watch = this.#watchRoot.bind(this);
    replaceMethod(Element.prototype, 'attachShadow', (original) => ({
      instead(...args) {
        const root = apply(original, this, args) as ShadowRoot;
        guarded(() => watch(root));
        return root;
      },
    }));
  }

  onChange(listener: (records: readonly MutationRecord[]) => void): void {
    this.#listeners.push(listener);
  }

  /** @param listener is called when watching begins, with the calls that wrote since it ended for them, and when it ends */
  onWatch(listener: (on: boolean, passedOver: number) => void): void {
    this.#onWatch.push(listener);
  }

  start(): void {
    this.#watching = true;
    this.#watch(true);
  }

  stop(): void {
    this.#watching = false;
    this.#watch(false);
    this.clean();
  }

  /** Other work begins: goes on watching where so much was written at once that it was given up. */
  resume(): void {
    if (this.#untold >= FLOOD) this.#watch(true);
    this.#untold = 0;
  }

  #watch(on: boolean): void {
    const passedOver = Math.max(0, this.#untold - FLOOD);
    this.#untold = 0;
    if (on) {
      this.#observer.observe(document, WATCHED);
      for (const root of this.#used()) this.#observer.observe(root, WATCHED);
    } else this.#observer.disconnect();
    for (const listener of this.#onWatch) listener(on, passedOver);
  }

  /** A function that writes is called. */
  writing(what: string, target: Node): void {
    if (!this.#watching || ++this.#untold < FLOOD) return;
    if (this.#untold === FLOOD) {
      const records = this.#observer.takeRecords();
      if (records.length > 0) this.#take(records);
      this.#untold = 0;
      if (records.length < FLOOD / 2) return;
      this.#watch(false);
      this.#untold = FLOOD;
    }
    this.wrote(what, target);
  }

  /** Whether anything has changed since style and layout were last known to be done. */
  isDirty(): boolean {
    if (!this.#watching) return false;
    const records = this.#observer.takeRecords();
    if (records.length > 0) this.#take(records);
    return this.#dirty;
  }

  /** Style and layout have been done. */
  clean(): void {
    this.#dirty = false;
    this.last = undefined;
  }

  /** Notes a change that no observer is told of. */
  wrote(what: string, target: Node): void {
    if (!this.#watching) return;
    this.#dirty = true;
    this.last = { what, target };
  }

  #watchRoot(root: Node): void {
    if (this.#roots.push(new WeakRef(root)) > this.#pruneAt) {
      this.#pruneAt = Math.max(MIN_PRUNED, 2 * this.#used().length);
    }
    if (this.#watching) this.#observer.observe(root, WATCHED);
  }

  /** Shadow trees that are still used; the others are forgotten. */
  #used(): Node[] {
    const used = this.#roots.flatMap((root) => root.deref() ?? []);
    this.#roots = used.map((root) => new WeakRef(root));
    return used;
  }

  #take(records: readonly MutationRecord[]): void {
    this.#dirty = true;
    this.#untold = 0;
    const { type, attributeName, target } = records.at(-1)!;
    const what = type === 'attributes' ? attributeName! : type === 'childList' ? 'children' : 'text';
    this.last = { what, target };
    for (const listener of this.#listeners) listener(records);
  }
}
