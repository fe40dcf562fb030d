import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { TRIAL_PATH, type Trial } from '@nettle-patch/core';
import { builtPath } from '../assets';
import { trialModules } from './prepare-trial';

/** Trials that are kept at once; the oldest goes. */
const MAX_TRIALS = 20;
const SCRIPT = 'text/javascript; charset=utf-8';
const HTML = 'text/html; charset=utf-8';

const FILES = new Map<string, Parameters<typeof builtPath>[0]>([
  ['page.js', 'trialPage'],
  ['frame.js', 'trialFrame'],
  ['worker.js', 'trialWorker'],
]);

const page = (script: string) =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><title>Trial</title><body><script src="${script}"></script></body></html>`;
const PAGES = new Map([
  ['', page('page.js')],
  ['frame.html', page('frame.js')],
]);

/**
 * Pages are isolated where the browser can, for a closer clock, and may be put into the interface by nobody but this
 * computer. An origin that asks for a process of its own cannot keep the interface from working.
 */
const HEADERS = {
  'cache-control': 'no-store',
  'x-content-type-options': 'nosniff',
  'origin-agent-cluster': '?1',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-embedder-policy': 'require-corp',
  'cross-origin-resource-policy': 'cross-origin',
  'content-security-policy': "frame-ancestors 'self' http://localhost:* http://127.0.0.1:*",
};

/** The pages and modules of trials, each under an id that nobody can guess. */
export class TrialPages {
  readonly #modules = new Map<string, readonly string[]>();

  /** @returns path of its page. @throws BadTrialError */
  add(trial: Trial): string {
    const modules = trialModules(trial);
    const id = randomBytes(12).toString('base64url');
    if (this.#modules.size >= MAX_TRIALS) this.#modules.delete(this.#modules.keys().next().value!);
    this.#modules.set(id, modules);
    return `${TRIAL_PATH}${id}/`;
  }

  /** Answers what is asked for below the path of trials. */
  async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const [, id = '', name = ''] =
      /^([^/?]+)\/([^?]*)/.exec((request.url ?? '').slice(TRIAL_PATH.length)) ?? [];
    const found = await this.#text(id, name);
    if (found === undefined) {
      response.writeHead(404, { 'content-type': 'text/plain; charset=utf-8' }).end('There is no such trial.');
      return;
    }
    response.writeHead(200, { ...HEADERS, 'content-type': found.type }).end(found.text);
  }

  async #text(id: string, name: string): Promise<{ type: string; text: string } | undefined> {
    const modules = this.#modules.get(id);
    if (modules === undefined) return undefined;
    const html = PAGES.get(name);
    if (html !== undefined) return { type: HTML, text: html };
    const file = FILES.get(name);
    if (file !== undefined) return { type: SCRIPT, text: await readFile(builtPath(file), 'utf8') };
    const text = modules[Number(/^alternative-(\d)\.js$/.exec(name)?.[1] ?? Number.NaN)];
    return text === undefined ? undefined : { type: SCRIPT, text };
  }
}
