import type { IncomingMessage, ServerResponse } from 'node:http';
import { modeFor, type CaptureMode, type RewritingMode } from '@nettle-patch/core';
import { asksForScript } from '../rewriting/script-answer';
import type { AccessPolicy } from '../gate/access-policy';
import { atOrigin } from '../sources/at-origin';
import type { Origins } from '../sources/fetch-script';
import { answerHeaders, type AnswerContext } from './answer-headers';
import { explainFailure } from './failure-page';
import type { ProxyControl } from './proxy-control';
import { takesNoSamples } from './recorder-paths';
import { ServiceWorkers } from './service-workers';

export interface ProxyOptions {
  /** Origin of the app's own server. */
  readonly targetOrigin: string;
  /** Whom it is open to, and at which origin. */
  readonly gate: Pick<AccessPolicy, 'origin' | 'secretFor'>;
  readonly control: ProxyControl;
  /** Files that are put into pages before the recorder, besides those the settings ask for. */
  readonly extraPaths?: readonly string[];
}

/** What may stand behind a status (RFC 9112, section 4). */
const SAYABLE = /^[\t\x20-\x7e\x80-\xff]*$/;

/** What all answers of one app have in common: where it is, how their heads are passed on, and what is said of a failure. */
export class AppAnswers {
  readonly control: ProxyControl;
  readonly #serviceWorkers = new ServiceWorkers();

  constructor(readonly options: ProxyOptions) {
    this.control = options.control;
  }

  /** How closely a page is looked at that asks for something. */
  modeFor(request: IncomingMessage): CaptureMode {
    return modeFor(this.control.settings, !takesNoSamples(request.headers['user-agent'] ?? ''));
  }

  /** How its scripts are rewritten on their way; undefined where they pass as they are. */
  rewritingFor(request: IncomingMessage): RewritingMode | undefined {
    const mode = this.modeFor(request);
    if (mode === 'fine' && this.control.settings.closer !== '') return 'closer';
    return mode === 'everyday' ? undefined : mode;
  }

  get origins(): Origins {
    return { targetOrigin: this.options.targetOrigin, proxyOrigin: this.options.gate.origin };
  }

  /** Notes which requests are those of service workers. */
  note(request: IncomingMessage): void {
    this.#serviceWorkers.note(request);
  }

  asksForScript(request: IncomingMessage): boolean {
    return asksForScript(request) || this.#serviceWorkers.askForScript(request);
  }

  urlOf(request: IncomingMessage): URL {
    return atOrigin(this.options.gate.origin, request.url ?? '/');
  }

  context(request: IncomingMessage): AnswerContext {
    return {
      ...this.origins,
      ...(this.control.settings.isolate ? { embedderPolicy: embedderPolicyFor(request) } : {}),
      asksAgain: this.asksForScript(request),
    };
  }

  head(answer: IncomingMessage, response: ServerResponse, context: AnswerContext): void {
    const { statusCode = 502, statusMessage = '' } = answer;
    const reason = SAYABLE.test(statusMessage) ? statusMessage : '';
    response.writeHead(statusCode, reason, answerHeaders(answer, context).flat());
  }

  /** @param response an answer, or the socket of a connection */
  failed(error: Error, response: unknown): void {
    const reply = response as Partial<ServerResponse> & { destroy?: () => void };
    if (typeof reply.writeHead !== 'function' || reply.headersSent) {
      reply.destroy?.();
      return;
    }
    reply.writeHead(502, { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' });
    reply.end?.(explainFailure(this.options.targetOrigin, error));
  }
}

/** One family of engines knows only the stricter of the two policies that isolate a page. */
function embedderPolicyFor(request: IncomingMessage): string {
  const agent = request.headers['user-agent'] ?? '';
  return /AppleWebKit/.test(agent) && !/Chrom/.test(agent) ? 'require-corp' : 'credentialless';
}

/** A browser that goes away in the middle of an answer is no error. */
export function ignore(): void {}
