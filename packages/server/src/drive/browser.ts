/** An element of the page, as the protocol refers to it. */
export type ElementReference = Readonly<Record<string, unknown>>;

/** One source of input and what it does, tick by tick (WebDriver, section 17.4). */
export interface InputSource {
  readonly type: 'pointer' | 'key' | 'wheel';
  readonly id: string;
  readonly parameters?: { readonly pointerType: 'mouse' };
  readonly actions: readonly Readonly<Record<string, unknown>>[];
}

/** A browser with one page, driven from outside with real input. */
export interface Browser {
  /** Name and version, for people. */
  readonly name: string;
  navigate(url: string): Promise<void>;
  /** The first element a CSS selector finds, or undefined. */
  find(selector: string): Promise<ElementReference | undefined>;
  /** What stands for an element where input is to be given relative to it. */
  originOf(element: ElementReference): unknown;
  perform(sources: readonly InputSource[]): Promise<void>;
  scrollIntoView(element: ElementReference): Promise<void>;
  /** Chooses an option of a list by script, as lists open outside of the page. @param index of the option, from 0 */
  choose(element: ElementReference, index: number): Promise<void>;
  /** What a function gives that is called in the page, on its main thread; a promise is waited for. @param source text of the function */
  call(source: string): Promise<unknown>;
  /** Has it run so many times slower, as far as it can. Absent where it cannot be done. */
  slow?(factor: number): Promise<void>;
  close(): Promise<void>;
}

/** What `choose` runs in the page. */
export const CHOOSE = `(element, index) => {
  element.selectedIndex = index;
  for (const type of ['input', 'change']) element.dispatchEvent(new Event(type, { bubbles: true }));
}`;

/** Thrown when a browser or its driver cannot be started or reached. */
export class BrowserError extends Error {
  override readonly name = 'BrowserError';
}
