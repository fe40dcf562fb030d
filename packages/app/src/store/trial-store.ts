import {
  BadTrialError,
  PAIR_VERDICTS,
  TRIAL_ENDS,
  TRIAL_PLACES,
  trialFrom,
  trialProblemSchema,
  trialCheckedSchema,
  type TrialRun,
} from '@nettle-patch/core';
import { array, mixed, number, object, string, type Schema } from 'yup';
import type { NettleDatabase, StoredTrial } from './database';

const finite = () => number().required();

const runSchema = object({
  where: string().required(),
  speed: number().optional(),
  result: object({
    engine: string().required(),
    place: string().oneOf(TRIAL_PLACES).required(),
    clockStepMs: finite(),
    starts: finite(),
    level: finite(),
    ended: string().oneOf(TRIAL_ENDS).required(),
    alternatives: array(
      object({
        name: string().required(),
        problem: trialProblemSchema.optional().default(undefined),
        checked: trialCheckedSchema.optional().default(undefined),
        runMs: array(finite()).required(),
        medianMs: number().optional(),
        bytes: number().optional(),
      }),
    ).required(),
    pairs: array(
      object({
        first: finite(),
        second: finite(),
        more: object({ share: finite(), low: finite(), high: finite() }),
        chance: finite(),
        verdict: string().oneOf(PAIR_VERDICTS).required(),
      }),
    ).required(),
  }).required(),
});
const runsSchema: Schema<unknown> = array(runSchema).required();

const rowSchema = object({
  id: string().required(),
  changedAt: string().required(),
  trial: mixed().required(),
  runs: mixed().required(),
});

/** What is kept of a trial as it must be; what came of it is left out where it makes no sense any more. */
export function readStoredTrial(given: unknown): StoredTrial | undefined {
  if (!rowSchema.isValidSync(given)) return undefined;
  const { id, changedAt, trial, runs } = given;
  try {
    const isKnown = runsSchema.isValidSync(runs);
    return { id, changedAt, trial: trialFrom(trial), runs: isKnown ? (runs as TrialRun[]) : [] };
  } catch (error) {
    if (error instanceof BadTrialError) return undefined;
    throw error;
  }
}

/** Keeps trials in the browser. */
export class TrialStore {
  constructor(private readonly database: NettleDatabase) {}

  /** All trials that can be read, the newest first. */
  async list(): Promise<StoredTrial[]> {
    const rows: readonly unknown[] = await this.database.trials.orderBy('changedAt').reverse().toArray();
    return rows.map(readStoredTrial).filter((one) => one !== undefined);
  }

  async get(id: string): Promise<StoredTrial | undefined> {
    return readStoredTrial(await this.database.trials.get(id));
  }

  async put(trial: StoredTrial): Promise<void> {
    await this.database.trials.put(trial);
  }

  async remove(id: string): Promise<void> {
    await this.database.trials.delete(id);
  }
}
