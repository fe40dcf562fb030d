import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { pipeline, type Transform } from 'node:stream';
import { builtPath } from '../assets';
import { CLOSER_PLACE, type RewritingMode } from '@nettle-patch/core';
import { asksForWorker, isScript } from '../rewriting/script-answer';
import type { ScriptToRewrite } from '../rewriting/script-rewriter';
import { withoutQuery } from '../sources/at-origin';
import { fetchMap } from '../sources/fetch-script';
import { ignore, type AppAnswers } from './app-answers';
import { textWithin } from './text-within';

/** Scripts above this pass as they are. Bytes. */
const MAX_SCRIPT = 64 * 2 ** 20;

/** Rewrites the scripts of an app, and puts the recorder before those of workers. */
export class ScriptAnswers {
  constructor(private readonly app: AppAnswers) {}

  isToBeRewritten(answer: IncomingMessage, request: IncomingMessage): boolean {
    if (!isScript(answer)) return false;
    if (asksForWorker(request)) return true;
    if (this.app.rewritingFor(request) === undefined || !this.app.asksForScript(request)) return false;
    const url = this.app.urlOf(request).href;
    const left = this.app.control.settings.leaveOut.find((text) => url.includes(text));
    if (left !== undefined) {
      this.app.control.rewriter.leave(
        withoutQuery(url),
        `its calls are not recorded: its address holds "${left}", which is left out`,
      );
    }
    return left === undefined;
  }

  /** @param readable undoes how the answer is packed */
  async pass(
    answer: IncomingMessage,
    request: IncomingMessage,
    response: ServerResponse,
    readable: Transform,
  ): Promise<void> {
    try {
      pipeline(answer, readable, ignore);
      const read = await textWithin(readable, MAX_SCRIPT);
      if (!read.isWhole) {
        this.app.control.rewriter.leave(
          withoutQuery(this.app.urlOf(request).href),
          `it is not recorded: it has more than ${MAX_SCRIPT / 2 ** 20} MB`,
        );
        this.app.head(answer, response, { ...this.app.context(request), rewritten: true });
        response.write(read.text);
        pipeline(readable, response, ignore);
        return;
      }
      const original = read.text;
      const url = this.app.urlOf(request);
      const prelude = asksForWorker(request) ? await this.#workerPrelude(request) : undefined;
      const header = answer.headers['sourcemap'] ?? answer.headers['x-sourcemap'] ?? null;
      const found = await fetchMap(url, original, header as string | null, this.app.origins);
      const { map, mapUrl } = found;
      const script = { url: withoutQuery(url.href), text: original, map, mapUrl, prelude };
      const code = await this.#rewritten(script, this.app.rewritingFor(request));
      this.app.head(answer, response, { ...this.app.context(request), rewritten: true });
      response.end(code);
    } catch (error) {
      this.app.failed(error as Error, response);
    }
  }

  /**
   * The text of a worker that a page has made itself (a blob), with the recorder before it. It is known by its name
   * and content, as the address it will have is another one each time.
   */
  async workerScript(
    request: IncomingMessage,
    name: string,
    text: string,
    isModule: boolean,
  ): Promise<string> {
    const content = createHash('sha256').update(text).digest('hex').slice(0, 8);
    const url = `blob:${this.app.options.gate.origin}/${encodeURIComponent(name)}-${content}`;
    const script = { url, text, isModule, prelude: await this.#workerPrelude(request) };
    return this.#rewritten(script, this.app.rewritingFor(request));
  }

  /** The recorder of a worker and, where a function is looked at closer, its place around that. */
  async #workerPrelude(request: IncomingMessage): Promise<string> {
    const recorder = await readFile(builtPath('worker'), 'utf8');
    if (this.app.rewritingFor(request) !== 'closer') return recorder;
    return `{const ${CLOSER_PLACE}=${JSON.stringify(this.app.control.settings.closer)};${recorder}}`;
  }

  #rewritten(script: Omit<ScriptToRewrite, 'mode'>, mode: RewritingMode | undefined): Promise<string> {
    return mode !== undefined
      ? this.app.control.rewriter.rewrite({ ...script, mode })
      : this.app.control.rewriter.precede(script.url, script.text, script.prelude ?? '');
  }
}
