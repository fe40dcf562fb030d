import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { PassThrough, pipeline, type Transform } from 'node:stream';
import { IN_WORK_PATH, SENDER_PATH, type RewritingMode } from '@nettle-patch/core';
import { withoutQuery } from '../sources/at-origin';
import { ignore, type AppAnswers } from './app-answers';
import { destinationOf } from './html-answer';
import { injectRecorder, recorderElements, type InjectionOptions } from './html-injection';
import type { InlineRewriter } from './inline-scripts';
import { encodingPushedOut, tellingBegin } from './page-encoding';
import { recorderPaths } from './recorder-paths';

/** A stream of strings whose characters are bytes. */
const OF_TEXT = { decodeStrings: false, encoding: 'utf8' } as const;

/** Puts the recorder into the pages of an app. */
export class PageAnswers {
  constructor(private readonly app: AppAnswers) {}

  /** @param readable undoes how the answer is packed */
  pass(
    answer: IncomingMessage,
    request: IncomingMessage,
    response: ServerResponse,
    readable: Transform,
  ): void {
    const { proxyOrigin } = this.app.origins;
    const mode = this.app.modeFor(request);
    const rewriting = this.app.rewritingFor(request);
    if (rewriting !== undefined) this.app.control.rewriter.getReady();
    const permit = {
      scriptUrls: recorderPaths(
        request,
        { ...this.app.control.settings, mode },
        this.app.options.extraPaths,
      ).map((path) => proxyOrigin + path),
      senderUrl: proxyOrigin + SENDER_PATH,
      ...(rewriting === undefined ? {} : { askedUrl: proxyOrigin + IN_WORK_PATH }),
      nonce: randomBytes(12).toString('base64url'),
    };
    const injected: InjectionOptions = {
      ...permit,
      data: {
        'data-secret': this.app.options.gate.secretFor(request) ?? '',
        'data-mode': mode,
        'data-steps': this.app.control.settings.steps,
        'data-labels': this.app.control.settings.labels,
        ...(rewriting === 'closer' ? { 'data-closer': this.app.control.settings.closer } : {}),
      },
      document: destinationOf(request) === 'document',
      onTooLong: () =>
        this.app.control.rewriter.leave(
          withoutQuery(this.app.urlOf(request).href),
          'what stands in the page behind its first megabytes is not recorded: a piece of it is too long',
        ),
      ...(rewriting === undefined ? {} : { rewriteInline: this.#inlineRewriter(answer, request, rewriting) }),
    };
    const head = (begin: string) => {
      if (response.headersSent) return;
      const charset = encodingPushedOut(begin, recorderElements(injected).length);
      const context = { ...this.app.context(request), permit, ...(charset === undefined ? {} : { charset }) };
      this.app.head(answer, response, context);
    };
    const isNamed = /\bcharset\s*=/i.test(answer.headers['content-type'] ?? '');
    if (isNamed) head('');
    const begin = isNamed ? new PassThrough(OF_TEXT) : tellingBegin(head);
    const injection = injectRecorder(injected);
    readable.setEncoding('latin1');
    injection.setEncoding('utf8');
    pipeline(answer, readable, begin, injection, toBytes, response, ignore);
  }

  /** Rewrites scripts that stand in a page, unless its policy knows them by their very bytes. */
  #inlineRewriter(
    answer: IncomingMessage,
    request: IncomingMessage,
    mode: RewritingMode,
  ): InlineRewriter | undefined {
    const policy = String(answer.headers['content-security-policy'] ?? '');
    const page = withoutQuery(this.app.urlOf(request).href);
    if (/'sha(256|384|512)-/.test(policy)) {
      this.app.control.rewriter.leave(
        page,
        'the calls of scripts in the page are not recorded: its policy allows only their exact text',
      );
      return undefined;
    }
    return (script, place) => this.app.control.rewriter.rewrite({ url: `${page}${place}`, mode, ...script });
  }
}

/** Turns strings of byte-valued characters back into bytes. */
async function* toBytes(source: AsyncIterable<string | Buffer>): AsyncGenerator<Buffer> {
  for await (const piece of source) yield Buffer.from(piece as string, 'latin1');
}
