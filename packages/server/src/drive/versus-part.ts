import express, { type Response } from 'express';
import { array, number, object, string, type InferType } from 'yup';
import {
  CAPTURE_MODES,
  MAX_ROUNDS,
  SLOWINGS,
  readSteps,
  slowerIn,
  thresholdsOf,
  versusMarkdown,
  versusPage,
  versusPicture,
  versusRows,
  versusWords,
  type CaptureMode,
  type Versus,
  type VersusEvent,
} from '@nettle-patch/core';
import type { ServedPart } from '../serve';
import { atOrigin } from '../sources/at-origin';
import { BadAddressError } from '../apps/target-origin';
import { BadArgumentError, urlFrom } from './arguments';
import { BROWSER_NAMES, type BrowserName } from './local-browsers';
import { EndedEarlyError } from './record';
import { runVersus } from './versus';

const versusSchema = object({
  steps: array(object()).min(1).required(),
  rounds: number().integer().min(1).max(MAX_ROUNDS).required(),
  browser: string<BrowserName>().oneOf(BROWSER_NAMES).required(),
  /** Address of the app, as its own server has it or as it is opened; the first app where none is given. */
  app: string().max(2000),
  /** Path of the page, with its query: A. */
  path: string().max(2000).matches(/^\//, 'path must begin with "/"').required(),
  /** Address of the page in the other version: B. */
  against: string().max(2000).required(),
  mode: string<CaptureMode>().oneOf(CAPTURE_MODES).required(),
  slow: number().oneOf(SLOWINGS),
}).noUnknown();

type VersusRequest = InferType<typeof versusSchema>;

/** The address of the other version, at its own server where it is given as it is opened here. @throws BadAddressError */
function otherAddress(text: string, targetOf: (address: string) => string | undefined): URL {
  try {
    const url = urlFrom(text, 'the other version’s address');
    const target = targetOf(url.href);
    return target === undefined ? url : atOrigin(target, url.pathname + url.search + url.hash);
  } catch (error) {
    if (error instanceof BadArgumentError) throw new BadAddressError(error.message);
    throw error;
  }
}

function outcomeOf(versus: Versus): VersusEvent {
  const [run] = versus.runs;
  const thresholds = thresholdsOf(run!.example.after.header);
  return {
    type: 'outcome',
    before: versus.before,
    after: versus.after,
    words: versusWords(run!),
    rows: versusRows(run!.comparison.series),
    slower: slowerIn(versus).length,
    markdown: versusMarkdown(versus),
    page: versusPage(versus, thresholds),
    picture: versusPicture(versus, thresholds),
  };
}

/** Holds two addresses against each other for the interface, one request at a time. */
class VersusRuns {
  #running: AbortController | undefined;

  /**
   * @param targetFor origin of the server of an app, by its address, or of the first app
   * @param targetOf the same, undefined where the address is that of no app that is served
   */
  constructor(
    private readonly targetFor: (app: string | undefined) => string,
    private readonly targetOf: (address: string) => string | undefined,
  ) {}

  get isRunning(): boolean {
    return this.#running !== undefined;
  }

  stop(): void {
    this.#running?.abort();
  }

  /** Does it, and tells how far it is: lines of JSON, each a VersusEvent. Ends when whoever asked goes away. */
  async run(request: VersusRequest, response: Response): Promise<void> {
    const steps = readSteps(JSON.stringify({ steps: request.steps }));
    const urls = {
      before: atOrigin(this.targetFor(request.app), request.path),
      after: otherAddress(request.against, this.targetOf),
    };
    const { rounds, browser, mode, slow } = request;
    const control = new AbortController();
    this.#running = control;
    response.on('close', () => control.abort());
    const tell = (event: VersusEvent) => response.write(`${JSON.stringify(event)}\n`);
    response.type('application/x-ndjson');
    tell({ type: 'began' });
    try {
      const run = await runVersus({
        urls,
        steps,
        settings: { mode },
        browser,
        rounds,
        slow,
        signal: control.signal,
        onLoad: ({ side, round, leftMs }) => tell({ type: 'load', side, round, of: rounds, leftMs }),
      });
      tell(outcomeOf({ before: urls.before.href, after: urls.after.href, runs: [run], caveats: [] }));
    } catch (error) {
      if (!(error instanceof EndedEarlyError)) tell({ type: 'failed', reason: (error as Error).message });
    } finally {
      this.#running = undefined;
      response.end();
    }
  }
}

/** What the interface asks of versus runs. */
export function versusPart(
  targetFor: (app: string | undefined) => string,
  targetOf: (address: string) => string | undefined,
): ServedPart {
  const runs = new VersusRuns(targetFor, targetOf);
  const router = express.Router();
  router.post('/', express.json({ limit: '2mb' }), async (request, response) => {
    const asked = versusSchema.validateSync(request.body, { strict: true });
    if (runs.isRunning)
      response.status(409).type('text').send('Two versions are held against each other already.');
    else await runs.run(asked, response);
  });
  return { path: 'versus', routes: router, stop: () => runs.stop() };
}
