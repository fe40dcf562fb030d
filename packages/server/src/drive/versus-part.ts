import express, { type Response } from 'express';
import { number, object, string, type InferType } from 'yup';
import {
  MAX_ROUNDS,
  readSteps,
  slowerIn,
  thresholdsOf,
  toBase64,
  versusMarkdown,
  versusPage,
  versusPicture,
  versusRows,
  versusWords,
  type Versus,
  type VersusEvent,
} from '@nettle-patch/core';
import type { ServedPart } from '../serve';
import { atOrigin } from '../sources/at-origin';
import { urlFrom } from './arguments';
import type { LoadProgress, Side } from './loads';
import { scriptedFields } from './scripted-request';
import { ToldRun } from './told-run';
import { runVersus, type MadeVersus } from './versus';

const versusSchema = object({
  /** `path` is that of A. */
  ...scriptedFields,
  rounds: number().integer().min(1).max(MAX_ROUNDS).required(),
  /** Address of the page in the other version: B. */
  against: string().max(2000).required(),
  /** What the recordings of the loads are called before their side and round. */
  title: string().max(200),
}).noUnknown();

type VersusRequest = InferType<typeof versusSchema>;

/** The address of the other version, at its own server where it is given as it is opened here. @throws BadArgumentError */
function otherAddress(text: string, targetOf: (address: string) => string | undefined): URL {
  const url = urlFrom(text, 'the other version’s address');
  const target = targetOf(url.href);
  return target === undefined ? url : atOrigin(target, url.pathname + url.search + url.hash);
}

async function outcomeOf(urls: Readonly<Record<Side, URL>>, made: MadeVersus): Promise<VersusEvent> {
  const { run } = made;
  const { before, after } = urls;
  const versus: Versus = { before: before.href, after: after.href, runs: [run], caveats: [] };
  const thresholds = thresholdsOf(run.typical.after.header);
  return {
    type: 'outcome',
    before: versus.before,
    after: versus.after,
    words: versusWords(run),
    rows: versusRows(run.comparison.series),
    slower: slowerIn(versus).length,
    markdown: versusMarkdown(versus),
    page: versusPage(versus, thresholds),
    picture: versusPicture(versus, thresholds),
    typical: {
      before: toBase64(await made.typicalFile('before')),
      after: toBase64(await made.typicalFile('after')),
    },
  };
}

/** What the interface asks of versus runs: one at a time, told by VersusEvents. */
export function versusPart(
  targetFor: (app: string | undefined) => string,
  targetOf: (address: string) => string | undefined,
): ServedPart {
  const told = new ToldRun<VersusEvent>();
  const run = async (request: VersusRequest, response: Response) => {
    const steps = readSteps(JSON.stringify({ steps: request.steps }));
    const urls = {
      before: atOrigin(targetFor(request.app), request.path),
      after: otherAddress(request.against, targetOf),
    };
    const { rounds, browser, mode, slow, title } = request;
    await told.run(response, async (tell, signal) => {
      const onLoad = ({ side, round, leftMs }: LoadProgress) =>
        tell({ type: 'load', side, round, of: rounds, leftMs });
      const settings = { mode };
      const options = { urls, steps, settings, browser, rounds, slow, title, signal, onLoad };
      tell(await outcomeOf(urls, await runVersus(options)));
    });
  };
  const router = express.Router();
  router.post('/', express.json({ limit: '2mb' }), async (request, response) => {
    const asked = versusSchema.validateSync(request.body, { strict: true });
    if (told.isRunning)
      response.status(409).type('text').send('Two versions are held against each other already.');
    else await run(asked, response);
  });
  return { path: 'versus', routes: router, stop: () => told.stop() };
}
