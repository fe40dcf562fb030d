import {
  ENDLESS,
  trialAnswerFrom,
  type TrialAnswer,
  type TrialBench,
  type TrialQuestion,
} from '@nettle-patch/core';
import type { Browser } from '../drive/browser';

/** So much later than the page itself would end it: only a page that stands still does not. */
const GRACE_MS = 5000;

/** Runs a trial in a browser that is driven from here. One that stands still is closed, and another opened. */
export class BrowserBench implements TrialBench {
  #browser: Promise<Browser> | undefined;

  /**
   * @param page address of the page of the trial
   * @param open opens a browser. @throws BrowserError
   */
  constructor(
    private readonly page: URL,
    private readonly open: () => Promise<Browser>,
  ) {}

  /** @throws BrowserError */
  async ask(question: TrialQuestion): Promise<TrialAnswer> {
    if (this.#browser === undefined && question.do !== 'begin') return { problem: ENDLESS };
    const browser = await (this.#browser ??= this.#opened());
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<undefined>((resolve) => {
      timer = setTimeout(() => resolve(undefined), question.limitMs + GRACE_MS);
    });
    const asked = browser.call(`() => window.nettlePatchTrial.ask(${JSON.stringify(question)})`);
    // What a browser says that was closed meanwhile is of no interest.
    asked.catch(() => undefined);
    try {
      const given = await Promise.race([asked, late]);
      if (given !== undefined) return trialAnswerFrom(given);
      await this.close();
      return { problem: ENDLESS };
    } finally {
      clearTimeout(timer);
    }
  }

  async close(): Promise<void> {
    const browser = this.#browser;
    this.#browser = undefined;
    await (await browser?.catch(() => undefined))?.close();
  }

  async #opened(): Promise<Browser> {
    const browser = await this.open();
    await browser.navigate(this.page.href);
    return browser;
  }
}
