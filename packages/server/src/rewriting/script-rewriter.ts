import { createHash } from 'node:crypto';
import {
  FIRST_EXACT_FUNCTION,
  withIdsFrom,
  type RewritingMode,
  type Uninstrumented,
  type RewritingStage,
  type ScriptInWork,
  type ScriptText,
} from '@nettle-patch/core';
import { functionsOnly, mapWithFunctionsOnly } from '../sources/code-of-page';
import { RewritingPool, type Rewritten } from './rewriting-pool';
import { ScriptCache } from './script-cache';
import type { WireOptions } from './rewriting-messages';

/** What is to be rewritten. */
export interface ScriptToRewrite {
  /** Address as the page loads it, without query. */
  readonly url: string;
  readonly text: string;
  readonly mode: RewritingMode;
  readonly isModule?: boolean;
  /** Script that is to run before it, in a worker. */
  readonly prelude?: string | undefined;
  readonly map?: string | undefined;
  readonly mapUrl?: string | undefined;
}

/** A script that was rewritten, or is being so. */
interface Kept {
  readonly script: ScriptToRewrite;
  readonly code: Promise<string>;
  firstId: number;
}

/** What a thread is doing, and since when: milliseconds of the clock. */
interface Work {
  readonly script: ScriptToRewrite;
  readonly beganMs: number;
  stage: RewritingStage;
}

/** Bytes of the texts of rewritten scripts kept at most, so that they need not be rewritten again. */
const MAX_KEPT_BYTES = 512 * 2 ** 20;

/** Rewrites scripts, each text once, and remembers what became of each address. */
export class ScriptRewriter {
  readonly #pool = new RewritingPool();
  readonly #byContent = new Map<string, Kept>();
  readonly #byUrl = new Map<string, Kept>();
  readonly #uninstrumented = new Map<string, Uninstrumented>();
  readonly #inWork = new Set<Work>();
  #keptBytes = 0;
  #nextId = FIRST_EXACT_FUNCTION;

  constructor(private readonly cache = new ScriptCache()) {}

  /** Scripts that passed as they were, by their addresses. */
  get uninstrumented(): readonly Uninstrumented[] {
    return [...this.#uninstrumented.values()].sort((a, b) => (a.url < b.url ? -1 : 1));
  }

  /** Scripts that are being rewritten now, those that have been longest first. */
  get inWork(): readonly ScriptInWork[] {
    const nowMs = performance.now();
    return Array.from(this.#inWork, ({ script, stage, beganMs }) => ({
      name: script.url.split('/').pop()!,
      megabytes: script.text.length / 1e6,
      stage,
      sinceMs: nowMs - beganMs,
    }));
  }

  /** Said when scripts will soon be there to be rewritten. */
  getReady(): void {
    this.#pool.getReady();
  }

  /** The rewritten text, or the same text where it cannot be rewritten, for whatever reason. */
  async rewrite(script: ScriptToRewrite): Promise<string> {
    const { url, text } = script;
    const kept = this.#kept(script);
    try {
      const code = await kept.code;
      this.#uninstrumented.delete(url);
      this.#byUrl.set(url, kept);
      return code;
    } catch (error) {
      this.leave(url, `its calls are not recorded: ${(error as Error).message}`);
      return text;
    }
  }

  /** A worker's script with the recorder before it, or the same text where it cannot be parsed. */
  async precede(url: string, text: string, prelude: string): Promise<string> {
    try {
      return (await this.#pool.run({ type: 'precede', text, prelude })).code;
    } catch (error) {
      this.leave(url, `its thread is not recorded: ${(error as Error).message}`);
      return text;
    }
  }

  /** Notes that a script was left as it was. */
  leave(url: string, problem: string): void {
    this.#byUrl.delete(url);
    this.#uninstrumented.set(url, { url, problem });
  }

  /** The text the page ran at an address, with the map that leads from it to the original sources. */
  async textAt(url: string): Promise<ScriptText | undefined> {
    const kept = this.#byUrl.get(url);
    if (kept === undefined) return undefined;
    const { script, firstId } = kept;
    const job = { type: 'rewrite', text: script.text, options: optionsOf(script), wantsMap: true } as const;
    let made: Rewritten;
    try {
      made = await this.#pool.run(job, { idsFor: () => firstId });
    } catch (error) {
      return { url, problem: `the text that ran could not be made again: ${(error as Error).message}` };
    }
    const { code, map } = made;
    if (!isInline(url)) return { url, text: code, mapUrl: url, ...(map === undefined ? {} : { map }) };
    return { url, text: functionsOnly(code), map: mapWithFunctionsOnly(map!), mapUrl: url };
  }

  close(): void {
    this.#pool.close();
  }

  #kept(script: ScriptToRewrite): Kept {
    const key = keyOf(script);
    const known = this.#byContent.get(key);
    if (known !== undefined) return known;
    const kept: Kept = {
      script,
      firstId: 0,
      code: this.#codeOf(script, key, (firstId) => (kept.firstId = firstId)),
    };
    kept.code.catch(() => this.#forget(key));
    this.#byContent.set(key, kept);
    this.#keptBytes += script.text.length;
    for (const oldest of this.#byContent.keys()) {
      if (this.#keptBytes <= MAX_KEPT_BYTES || oldest === key) break;
      this.#forget(oldest);
    }
    return kept;
  }

  /** Takes ids and rewrites a script, or takes what was made of it in another run. */
  async #codeOf(script: ScriptToRewrite, key: string, given: (firstId: number) => number): Promise<string> {
    const { text } = script;
    const idsFor = (idCount: number) => {
      const firstId = this.#nextId;
      this.#nextId += idCount;
      return given(firstId);
    };
    const cached = await this.cache.find(key, text.length);
    if (cached !== undefined) return withIdsFrom(cached.code, cached.firstId, idsFor(cached.idCount));
    let told = { firstId: 0, idCount: 0 };
    const job = { type: 'rewrite', text, options: optionsOf(script), wantsMap: false } as const;
    const work: Work = { script, beganMs: performance.now(), stage: 'reading' };
    this.#inWork.add(work);
    try {
      const { code } = await this.#pool.run(job, {
        idsFor: (idCount) => {
          told = { firstId: idsFor(idCount), idCount };
          return told.firstId;
        },
        onStage: (stage) => (work.stage = stage),
      });
      void this.cache.keep(key, text.length, { ...told, code });
      return code;
    } finally {
      this.#inWork.delete(work);
    }
  }

  #forget(key: string): void {
    const kept = this.#byContent.get(key);
    if (kept === undefined) return;
    this.#byContent.delete(key);
    this.#keptBytes -= kept.script.text.length;
  }
}

/** Whether a script stands in a page, with what the page was made for around its functions. */
function isInline(url: string): boolean {
  return url.includes('#inline-');
}

function keyOf({ url, text, mode, prelude = '', map = '' }: ScriptToRewrite): string {
  const hash = createHash('sha256');
  for (const part of [mode, url, prelude, map]) hash.update(part).update('\0');
  return hash.update(text).digest('base64');
}

function optionsOf({ url, mode, isModule, prelude, map, mapUrl }: ScriptToRewrite): WireOptions {
  return {
    url,
    mode,
    ...(isModule === undefined ? {} : { isModule }),
    ...(prelude === undefined ? {} : { prelude }),
    ...(map === undefined ? {} : { map, mapUrl: mapUrl ?? url }),
  };
}
