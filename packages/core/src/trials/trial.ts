import { ValidationError, array, mixed, object, string, type ObjectSchema } from 'yup';
import { jsonFault } from '../words/json-fault';
import { validationWords } from '../words/validation-words';

/** Where the code of a trial runs: in a worker, or in a page of its own, which has elements. */
export const TRIAL_PLACES = ['worker', 'page'] as const;
export type TrialPlace = (typeof TRIAL_PLACES)[number];

export const MIN_ALTERNATIVES = 2;
export const MAX_ALTERNATIVES = 5;
/** Longest text of a part. */
const MAX_CODE = 200_000;
const MAX_NAME = 120;
const TRIAL_FORMAT = 'nettle-patch-trial';
const TRIAL_VERSION = 1;

/** One way to write a piece of code: the body of a function, which may return what it found. */
export interface Alternative {
  readonly name: string;
  readonly code: string;
}

/** Alternatives for a piece of code, to be timed against each other. */
export interface Trial {
  readonly name: string;
  /** Address of the app whose modules may be imported; absent where there are none. */
  readonly app?: string | undefined;
  readonly place: TrialPlace;
  /** What comes before all of them, once in each start: a module's text, which may import. */
  readonly setUp: string;
  readonly alternatives: readonly Alternative[];
}

/** Thrown when a trial cannot be used. The message says what is wrong in it. */
export class BadTrialError extends Error {
  override readonly name = 'BadTrialError';
}

const code = () =>
  string()
    .typeError(({ path }) => `${path} must be a text, or a list of its lines`)
    .max(MAX_CODE, ({ path }) => `${path} must be shorter than ${MAX_CODE} letters`);

const webAddress = () =>
  string()
    .max(2000)
    .test('app', 'app must be an address that begins with http: or https:', (given) => {
      return given === undefined || /^https?:\/\/[^/\s]+/i.test(given);
    });

const trialSchema = object({
  name: string().trim().min(1).max(MAX_NAME).required(),
  app: webAddress(),
  place: string().oneOf(TRIAL_PLACES).default('worker'),
  setUp: code().default(''),
  alternatives: array(
    object({ name: string().trim().min(1).max(MAX_NAME).required(), code: code().defined() }).noUnknown(),
  )
    .min(MIN_ALTERNATIVES, `a trial has at least ${MIN_ALTERNATIVES} alternatives`)
    .max(MAX_ALTERNATIVES, `a trial has at most ${MAX_ALTERNATIVES} alternatives`)
    .required(),
}).noUnknown();

const fileSchema = trialSchema.shape({
  format: string()
    .oneOf([TRIAL_FORMAT], `"format" must be "${TRIAL_FORMAT}"`)
    .required('it says no "format"'),
  version: mixed().oneOf(
    [TRIAL_VERSION],
    `this reads version ${TRIAL_VERSION} of trials; bring the tool up to date`,
  ),
});

/** Code may be given as its lines, which are easier to read in a file. */
function withTexts(given: unknown): unknown {
  if (Array.isArray(given) && given.every((line) => typeof line === 'string')) return given.join('\n');
  if (Array.isArray(given)) return given.map(withTexts);
  if (typeof given !== 'object' || given === null) return given;
  return Object.fromEntries(Object.entries(given).map(([name, value]) => [name, withTexts(value)]));
}

/** A value as a schema wants it, with what is usual where it is not given. @throws BadTrialError */
function taken<T>(schema: ObjectSchema<object>, given: unknown): T {
  try {
    const value = schema.validateSync(withTexts(given), { strict: true });
    return schema.cast(value) as T;
  } catch (error) {
    if (error instanceof ValidationError) throw new BadTrialError(`the trial: ${validationWords(error)}`);
    throw error;
  }
}

/** Takes what may be a trial. @throws BadTrialError */
export function trialFrom(given: unknown): Trial {
  return taken(trialSchema, given);
}

/**
 * Reads a file of a trial, as docs/trials.md describes.
 * @throws BadTrialError
 */
export function readTrial(text: string): Trial {
  let given: unknown;
  try {
    given = JSON.parse(text);
  } catch (error) {
    throw new BadTrialError(`the file of the trial is no JSON${jsonFault(error as SyntaxError, text)}`);
  }
  const {
    format: _format,
    version: _version,
    ...trial
  } = taken<Trial & { format: string; version: number }>(fileSchema, given);
  return trial;
}

/** A trial as the text of a file. */
export function trialText({ name, app, place, setUp, alternatives }: Trial): string {
  const file = {
    format: TRIAL_FORMAT,
    version: TRIAL_VERSION,
    name,
    ...(app === undefined ? {} : { app }),
    place,
    setUp: setUp.split('\n'),
    alternatives: alternatives.map((one) => ({ name: one.name, code: one.code.split('\n') })),
  };
  return `${JSON.stringify(file, null, 2)}\n`;
}

/** Whether an object was meant to be a trial. */
export function isTrialFile(value: object): boolean {
  return (value as { format?: unknown }).format === TRIAL_FORMAT;
}
