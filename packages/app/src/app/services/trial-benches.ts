import {
  ENDLESS,
  TrialBenchError,
  checked,
  trialAnswerFrom,
  openedTrialSchema,
  type OpenedTrial,
  type Trial,
  type TrialAnswer,
  type TrialBench,
  type TrialQuestion,
} from '@nettle-patch/core';
import type { ApiService } from './api.service';

/** A page comes within this, or not at all. */
const PAGE_LIMIT_MS = 20_000;
/** So much later than the page itself would end it: only a page that stands still does not. */
const GRACE_MS = 2000;
/** How long the page is had to work, to find out whether this page stands still meanwhile; and from when on it does. */
const BUSY_MS = 300;
const STILL_MS = 150;

/** Has the server serve a trial. @throws TrialBenchError with what is wrong in it */
export async function openTrial(api: ApiService, trial: Trial, browser?: string): Promise<OpenedTrial> {
  const answer = await api
    .ask('POST', 'trials', { body: browser === undefined ? { trial } : { trial, browser } })
    .catch(() => undefined);
  if (answer === undefined) throw new TrialBenchError('The server is not there. Start it again.');
  if (!answer.ok) throw new TrialBenchError(await answer.text());
  return checked(await answer.json(), openedTrialSchema);
}

/** Runs a trial in a hidden frame of this page, at an origin of its own. */
export class FrameBench implements TrialBench {
  #frame: HTMLIFrameElement | undefined;
  #port: MessagePort | undefined;
  #lastId = 0;

  /** @param page address of the page of the trial */
  constructor(private readonly page: string) {}

  async ask(question: TrialQuestion): Promise<TrialAnswer> {
    if (this.#port === undefined) {
      if (question.do !== 'begin') return { problem: ENDLESS };
      await this.#open();
      if (question.place === 'page') await this.#checkThread();
    }
    const answer = await this.#send({ question }, question.limitMs + GRACE_MS);
    if (answer !== undefined) return trialAnswerFrom(answer);
    await this.close();
    return { problem: ENDLESS };
  }

  async close(): Promise<void> {
    this.#port?.close();
    this.#port = undefined;
    this.#frame?.remove();
    this.#frame = undefined;
  }

  async #open(): Promise<void> {
    const frame = document.createElement('iframe');
    frame.title = 'Trial';
    frame.setAttribute('sandbox', 'allow-scripts allow-same-origin');
    frame.setAttribute('aria-hidden', 'true');
    frame.tabIndex = -1;
    frame.style.cssText = 'position:fixed;inset:auto 0 0 auto;width:1px;height:1px;border:0;opacity:0';
    frame.src = this.page;
    document.body.append(frame);
    this.#frame = frame;
    await new Promise((resolve) => frame.addEventListener('load', resolve, { once: true }));
    const { port1, port2 } = new MessageChannel();
    this.#port = port1;
    const ready = this.#answerTo(0, PAGE_LIMIT_MS);
    frame.contentWindow!.postMessage('port', new URL(this.page).origin, [port2]);
    if ((await ready) === undefined) {
      await this.close();
      throw new TrialBenchError('The page of the trial could not be opened.');
    }
  }

  /** A page that shares this thread would keep the tool from working as long as an alternative runs. */
  async #checkThread(): Promise<void> {
    let longestMs = 0;
    let before = performance.now();
    const timer = setInterval(() => {
      longestMs = Math.max(longestMs, performance.now() - before);
      before = performance.now();
    }, 10);
    await this.#send({ busyMs: BUSY_MS }, PAGE_LIMIT_MS);
    longestMs = Math.max(longestMs, performance.now() - before);
    clearInterval(timer);
    if (longestMs < STILL_MS) return;
    await this.close();
    throw new TrialBenchError(
      'In this browser a page of a trial shares the thread of the tool, so an alternative that never ends would stop both. Run it in a worker, or in another browser of this computer.',
    );
  }

  #send(message: object, limitMs: number): Promise<unknown> {
    const id = ++this.#lastId;
    const answer = this.#answerTo(id, limitMs);
    this.#port!.postMessage({ id, ...message });
    return answer;
  }

  #answerTo(id: number, limitMs: number): Promise<unknown> {
    const port = this.#port!;
    return new Promise((resolve) => {
      const timer = setTimeout(() => resolve(undefined), limitMs);
      port.onmessage = ({ data }: MessageEvent<{ id: unknown; answer: unknown }>) => {
        if (data.id !== id) return;
        clearTimeout(timer);
        resolve(data.answer);
      };
    });
  }
}

/** Runs a trial in a browser of the computer the server runs on, by asking the server. */
export class ServerBench implements TrialBench {
  constructor(
    private readonly api: ApiService,
    private readonly bench: string,
  ) {}

  async ask(question: TrialQuestion): Promise<TrialAnswer> {
    const answer = await this.api.ask('POST', `trials/${this.bench}`, { body: { question } });
    if (!answer.ok) throw new TrialBenchError(await answer.text());
    return trialAnswerFrom(await answer.json());
  }

  async close(): Promise<void> {
    await this.api.ask('DELETE', `trials/${this.bench}`).catch(() => undefined);
  }
}
