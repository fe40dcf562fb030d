import { randomUUID } from 'node:crypto';
import express from 'express';
import { mixed, object, string } from 'yup';
import { trialFrom, trialQuestionFrom, type OpenedTrial, type TrialQuestion } from '@nettle-patch/core';
import { BrowserError } from '../drive/browser';
import { BROWSER_NAMES, openLocalBrowser, type BrowserName } from '../drive/local-browsers';
import type { ServedPart } from '../serve';
import { BrowserBench } from './browser-bench';
import { TrialOrigins } from './trial-origins';

const openSchema = object({
  trial: mixed().required(),
  /** Browser of this machine it is to run in; the one that asks where none is given. */
  browser: string<BrowserName>().oneOf(BROWSER_NAMES),
}).noUnknown();

const askSchema = object({ question: mixed().required() }).noUnknown();

/** Browsers that run trials at once. */
const MAX_BENCHES = 3;

/** What the interface asks of trials: a page to run one in, and to ask such a page in a browser of this machine. */
export function trialsPart(targetFor: (app: string | undefined) => string): ServedPart {
  const origins = new TrialOrigins();
  const benches = new Map<string, BrowserBench>();
  const router = express.Router();
  const json = express.json({ limit: '2mb' });

  router.post('/', json, async (request, response) => {
    const { trial: given, browser } = openSchema.validateSync(request.body, { strict: true });
    const trial = trialFrom(given);
    const page = await origins.open(trial, trial.app === undefined ? undefined : targetFor(trial.app));
    if (browser === undefined) {
      response.json({ page: page.href } satisfies OpenedTrial);
      return;
    }
    if (benches.size >= MAX_BENCHES) {
      response.status(409).type('text').send('Trials run in other browsers already.');
      return;
    }
    const id = randomUUID();
    benches.set(id, new BrowserBench(page, () => openLocalBrowser(browser, { exactHeap: true })));
    response.json({ page: page.href, bench: id } satisfies OpenedTrial);
  });

  router.post('/:bench', json, async (request, response) => {
    const bench = benches.get(request.params['bench']!);
    if (bench === undefined) {
      response.status(404).type('text').send('There is no such trial.');
      return;
    }
    const { question } = askSchema.validateSync(request.body, { strict: true });
    await answer(bench, trialQuestionFrom(question), response);
  });

  router.delete('/:bench', async (request, response) => {
    const bench = benches.get(request.params.bench);
    benches.delete(request.params.bench);
    await bench?.close();
    response.status(204).end();
  });

  const stop = () => {
    for (const bench of benches.values()) void bench.close();
    origins.close();
  };
  return { path: 'trials', routes: router, stop };
}

async function answer(
  bench: BrowserBench,
  question: TrialQuestion,
  response: express.Response,
): Promise<void> {
  try {
    response.json(await bench.ask(question));
  } catch (error) {
    if (!(error instanceof BrowserError)) throw error;
    response.status(502).type('text').send(error.message);
  }
}
