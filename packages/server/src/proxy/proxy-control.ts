import type { ProxySettings } from '@nettle-patch/core';
import { ScriptRewriter } from '../rewriting/script-rewriter';
import { withoutQuery } from '../sources/at-origin';

const MAX_ASKED = 10_000;

/** How pages are treated, at whichever address they are opened, and the scripts that were rewritten for them. */
export class ProxyControl {
  readonly rewriter = new ScriptRewriter();
  /** Addresses of scripts as they were asked for, by what is recorded of them, which is never a query. */
  readonly #asked = new Map<string, string>();

  constructor(public settings: ProxySettings) {}

  /** Notes that a script was asked for. */
  asked(url: URL): void {
    if (url.search === '') return;
    if (this.#asked.size >= MAX_ASKED) this.#asked.delete(this.#asked.keys().next().value!);
    this.#asked.set(withoutQuery(url.href), url.href);
  }

  /** The whole address a script was last asked for by, as another query may be another file. */
  wholeAddress(recorded: string): string {
    return this.#asked.get(recorded) ?? recorded;
  }
}
