import { createHash } from 'node:crypto';
import { FIRST_EXACT_FUNCTION, type LeftAlone, type ScriptText } from '@nettle-patch/core';
import {
  UnrewritableError,
  rewriteScript,
  withPrelude,
  type RewrittenScript,
} from '@nettle-patch/instrument';

/** What is to be rewritten. */
export interface ScriptToRewrite {
  /** Address as the page loads it, without query. */
  readonly url: string;
  readonly text: string;
  readonly isModule?: boolean;
  /** Script that is to run before it, in a worker. */
  readonly prelude?: string | undefined;
  readonly map?: string | undefined;
  readonly mapUrl?: string | undefined;
}

/** Rewritten scripts kept at most. */
const MOST_KEPT = 2000;

/** Rewrites scripts, each text once, and remembers what became of each address. */
export class ScriptRewriter {
  readonly #byContent = new Map<string, RewrittenScript>();
  readonly #byUrl = new Map<string, RewrittenScript>();
  readonly #leftAlone = new Map<string, LeftAlone>();
  #nextId = FIRST_EXACT_FUNCTION;

  get leftAlone(): readonly LeftAlone[] {
    return [...this.#leftAlone.values()];
  }

  /** The rewritten text, or the same text where it cannot be rewritten. */
  rewrite(script: ScriptToRewrite): string {
    const { url, text } = script;
    const key = createHash('sha256')
      .update(url)
      .update('\0')
      .update(script.prelude ?? '')
      .update('\0')
      .update(text)
      .digest('base64');
    let rewritten = this.#byContent.get(key);
    if (rewritten === undefined) {
      try {
        rewritten = this.#rewriteAnew(script);
      } catch (error) {
        if (!(error instanceof UnrewritableError)) throw error;
        this.leave(url, `it could not be parsed, so its calls are not recorded: ${error.message}`);
        return text;
      }
      this.#byContent.set(key, rewritten);
      if (this.#byContent.size > MOST_KEPT) this.#byContent.delete(this.#byContent.keys().next().value!);
    }
    this.#leftAlone.delete(url);
    this.#byUrl.set(url, rewritten);
    return rewritten.code;
  }

  /** A worker's script with the recorder before it, or the same text where it cannot be parsed. */
  precede(url: string, text: string, prelude: string): string {
    try {
      return withPrelude(text, prelude);
    } catch (error) {
      if (!(error instanceof UnrewritableError)) throw error;
      this.leave(url, `it could not be parsed, so its thread is not recorded: ${error.message}`);
      return text;
    }
  }

  /** Notes that a script was left as it was. */
  leave(url: string, problem: string): void {
    this.#byUrl.delete(url);
    this.#leftAlone.set(url, { url, problem });
  }

  /** The text the page ran at an address, with the map that leads from it to the original sources. */
  textAt(url: string): ScriptText | undefined {
    const rewritten = this.#byUrl.get(url);
    return rewritten && { url, text: rewritten.code, map: rewritten.map(), mapUrl: url };
  }

  #rewriteAnew({ url, text, isModule, map, mapUrl, prelude }: ScriptToRewrite): RewrittenScript {
    const rewritten = rewriteScript(text, {
      url,
      firstId: this.#nextId,
      ...(isModule === undefined ? {} : { isModule }),
      ...(prelude === undefined ? {} : { prelude }),
      ...(map === undefined ? {} : { map, mapUrl: mapUrl ?? url }),
    });
    this.#nextId += rewritten.idCount;
    return rewritten;
  }
}
