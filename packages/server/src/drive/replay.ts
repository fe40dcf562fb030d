import type { Response } from 'express';
import { object, string, number, boolean, type InferType } from 'yup';
import { MAX_ROUNDS, readSteps, type ReplayBrowser, type ReplayEvent } from '@nettle-patch/core';
import { BROWSER_NAMES, missingFor } from './local-browsers';
import { atOrigin } from '../sources/at-origin';
import { recordScript } from './record';
import { scriptedFields } from './scripted-request';
import { ToldRun } from './told-run';

export const replaySchema = object({
  ...scriptedFields,
  times: number().integer().min(1).max(MAX_ROUNDS).required(),
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
  readonly #told = new ToldRun<ReplayEvent>();

  /** @param targetFor origin of the server of an app, by its address, or of the first app */
  constructor(private readonly targetFor: (app: string | undefined) => string) {}

  get isRunning(): boolean {
    return this.#told.isRunning;
  }

  stop(): void {
    this.#told.stop();
  }

  /**
   * Does it, and tells how far it is: lines of JSON, each a ReplayEvent, until one says that the lines of the
   * recording follow. Ends when whoever asked goes away.
   * @throws BadStepsError, NoAppError before anything is answered
   */
  async run(request: ReplayRequest, response: Response): Promise<void> {
    const steps = readSteps(JSON.stringify({ steps: request.steps }));
    const targetOrigin = this.targetFor(request.app);
    await this.#told.run(response, async (tell, signal) => {
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
        signal,
      });
      tell({ type: 'recording', ...(failure === undefined ? {} : { failure: failure.message }) });
      for (const line of lines) response.write(`${line}\n`);
    });
  }
}
