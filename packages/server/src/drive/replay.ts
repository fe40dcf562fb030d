import type { Response } from 'express';
import { array, object, string, number, boolean, type InferType } from 'yup';
import {
  CAPTURE_MODES,
  MAX_ROUNDS,
  SLOWINGS,
  readSteps,
  type ReplayBrowser,
  type ReplayEvent,
  type CaptureMode,
} from '@nettle-patch/core';
import { BROWSER_NAMES, missingFor, type BrowserName } from './local-browsers';
import { atOrigin } from '../sources/at-origin';
import { EndedEarlyError, recordScript } from './record';

export const replaySchema = object({
  steps: array(object()).min(1).required(),
  times: number().integer().min(1).max(MAX_ROUNDS).required(),
  browser: string<BrowserName>().oneOf(BROWSER_NAMES).required(),
  /** Address of the app, as its own server has it or as it is opened; the first app where none is given. */
  app: string().max(2000),
  /** Path of the page, with its query. */
  path: string().max(2000).matches(/^\//, 'path must begin with "/"').required(),
  mode: string<CaptureMode>().oneOf(CAPTURE_MODES).required(),
  /** How many times slower the browser is to run. */
  slow: number().oneOf(SLOWINGS),
  /** Whether the page is loaded afresh for each round. */
  freshLoads: boolean().default(false),
  startUp: boolean().default(false),
  title: string().max(200),
}).noUnknown();
/** What is to be done again, and how. */
export type ReplayRequest = InferType<typeof replaySchema>;

/** The browsers of this machine, each with what it lacks. */
export function browsersHere(): ReplayBrowser[] {
  return BROWSER_NAMES.map((name) => ({ name, missing: missingFor(name) ?? null }));
}

/** Takes steps in a browser of its own, one request at a time, and records meanwhile. */
export class Replays {
  #running: AbortController | undefined;

  /** @param targetFor origin of the server of an app, by its address, or of the first app */
  constructor(private readonly targetFor: (app: string | undefined) => string) {}

  get isRunning(): boolean {
    return this.#running !== undefined;
  }

  stop(): void {
    this.#running?.abort();
  }

  /**
   * Does it, and tells how far it is: lines of JSON, each a ReplayEvent, until one says that the lines of the
   * recording follow. Ends when whoever asked goes away.
   * @throws BadStepsError, NoAppError before anything is answered
   */
  async run(request: ReplayRequest, response: Response): Promise<void> {
    const steps = readSteps(JSON.stringify({ steps: request.steps }));
    const targetOrigin = this.targetFor(request.app);
    const control = new AbortController();
    this.#running = control;
    response.on('close', () => control.abort());
    const tell = (event: ReplayEvent) => response.write(`${JSON.stringify(event)}\n`);
    response.type('application/x-ndjson');
    tell({ type: 'began' });
    try {
      const { lines, failure } = await recordScript({
        url: atOrigin(targetOrigin, request.path),
        steps,
        settings: { mode: request.mode },
        browser: request.browser,
        repeat: request.times,
        slow: request.slow,
        keepsWords: true,
        startUp: request.startUp,
        freshLoads: request.freshLoads,
        ...(request.title === undefined ? {} : { title: request.title }),
        onRound: (done) => tell({ type: 'round', done, of: request.times }),
        signal: control.signal,
      });
      tell({ type: 'recording', ...(failure === undefined ? {} : { failure: failure.message }) });
      for (const line of lines) response.write(`${line}\n`);
    } catch (error) {
      if (!(error instanceof EndedEarlyError)) tell({ type: 'failed', reason: (error as Error).message });
    } finally {
      this.#running = undefined;
      response.end();
    }
  }
}
