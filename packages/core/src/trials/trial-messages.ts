import { array, boolean, number, object, string, type InferType, type ObjectSchema } from 'yup';
import { MAX_ALTERNATIVES, TRIAL_PLACES, type TrialPlace } from './trial';

/** So many turns of an alternative, timed as one. */
export interface TrialBlock {
  /** Index of the alternative. */
  readonly at: number;
  readonly turns: number;
}

/** What is asked of the page in which a trial runs. `limitMs` is how long it may take. */
export type TrialQuestion =
  /** Begin in a fresh place. */
  | { readonly do: 'begin'; readonly place: TrialPlace; readonly limitMs: number }
  /** Load the module of an alternative. */
  | { readonly do: 'load'; readonly at: number; readonly limitMs: number }
  /** Call it, and compare what it gives with what those before gave. */
  | { readonly do: 'check'; readonly at: number; readonly limitMs: number }
  /** Call it until it is warm, and find how many turns last `blockMs`. */
  | {
      readonly do: 'warm';
      readonly at: number;
      readonly blockMs: number;
      readonly warmMs: number;
      readonly limitMs: number;
    }
  /** Time blocks, in the order they stand in. */
  | { readonly do: 'time'; readonly blocks: readonly TrialBlock[]; readonly limitMs: number };

const MAX_TEXT = 2000;
const ms = () => number().min(0).required();
const index = () =>
  number()
    .integer()
    .min(0)
    .max(MAX_ALTERNATIVES - 1);

/** What went wrong: it threw, it did not end in time, or it is no code. Lines are those of the alternative's module. */
export const trialProblemSchema = object({
  kind: string().oneOf(['threw', 'endless']).required(),
  /** Empty where it did not end. */
  message: string().max(MAX_TEXT).default(''),
  line: number().integer().min(1).optional(),
}).noUnknown();

/** What an alternative gave. */
export const trialCheckedSchema = object({
  /** What it gave, shortened. */
  text: string().max(MAX_TEXT).defined(),
  /** The first alternative that gave the same, which may be itself. */
  sameAs: index().required(),
  /** Whether it gave the same when it was called again. */
  isSteady: boolean().required(),
  /** Whether what it gave can be compared at all: a function cannot. */
  isComparable: boolean().required(),
}).noUnknown();

export const trialAnswerSchema = object({
  problem: trialProblemSchema.optional().default(undefined),
  begun: object({
    clockStepMs: ms(),
    engine: string().max(MAX_TEXT).required(),
  })
    .noUnknown()
    .optional()
    .default(undefined),
  checked: trialCheckedSchema.optional().default(undefined),
  turns: number().integer().min(1).optional(),
  blocks: array(
    object({
      ms: ms(),
      /** By how much the heap grew, where the engine tells. */
      bytes: number().optional(),
    }).noUnknown(),
  )
    .optional()
    .default(undefined),
}).noUnknown();

/** What the page answers: what was asked for, or the problem. Times are milliseconds. */
export type TrialAnswer = InferType<typeof trialAnswerSchema>;
export type TrialProblem = InferType<typeof trialProblemSchema>;
export type TrialChecked = NonNullable<TrialAnswer['checked']>;
export type TrialBegun = NonNullable<TrialAnswer['begun']>;

const MAX_LIMIT_MS = 600_000;
const MAX_BLOCKS = 100;
const limited = { limitMs: ms().max(MAX_LIMIT_MS) };
const ofOne = { ...limited, at: index().required() };
const QUESTIONS: Readonly<Record<TrialQuestion['do'], ObjectSchema<object>>> = {
  begin: object({ ...limited, place: string().oneOf(TRIAL_PLACES).required() }),
  load: object(ofOne),
  check: object(ofOne),
  warm: object({ ...ofOne, blockMs: ms(), warmMs: ms() }),
  time: object({
    ...limited,
    blocks: array(object({ at: index().required(), turns: number().integer().min(1).required() }).noUnknown())
      .max(MAX_BLOCKS)
      .required(),
  }),
};

/** A question as it must be. @throws ValidationError */
export function trialQuestionFrom(given: unknown): TrialQuestion {
  const { do: deed, ...rest } = object({
    do: string<TrialQuestion['do']>()
      .oneOf(Object.keys(QUESTIONS) as TrialQuestion['do'][])
      .required(),
  }).validateSync(given, { strict: true });
  return { do: deed, ...QUESTIONS[deed].noUnknown().validateSync(rest, { strict: true }) } as TrialQuestion;
}

export const openedTrialSchema = object({
  /** Address of the page of the trial. */
  page: string().required(),
  /** By which its browser is asked, where it runs in one of the server's. */
  bench: string().optional(),
});

/** What the server answers to a trial. */
export type OpenedTrial = InferType<typeof openedTrialSchema>;

/** An answer as it must be. @throws ValidationError */
export function trialAnswerFrom(given: unknown): TrialAnswer {
  return trialAnswerSchema.validateSync(given, { strict: true });
}
