import { jsonFault } from '../words/json-fault';
import { validationWords } from '../words/validation-words';
import { array, number, object, string, ValidationError, type ObjectSchema } from 'yup';
import { KEYS, MODIFIERS, type Modifier } from './keys';
import { MAX_STEPS } from '../format/limits';

export interface Distance {
  readonly x: number;
  readonly y: number;
}

/**
 * Steps that can be taken, each with what it needs. Times are milliseconds, distances CSS pixels; `at` is a place in
 * the element, from its middle.
 */
export type Step =
  | { readonly do: 'click' | 'double-click'; readonly on: string; readonly at?: Distance }
  | { readonly do: 'hover' | 'wait-for'; readonly on: string }
  | TypeStep
  | { readonly do: 'key'; readonly key: string; readonly with?: readonly Modifier[] }
  | { readonly do: 'choose'; readonly on: string; readonly index: number }
  | DragStep
  | { readonly do: 'scroll'; readonly on?: string; readonly by: Distance }
  | { readonly do: 'wait'; readonly ms: number }
  | { readonly do: 'navigate'; readonly url: string };

export interface TypeStep {
  readonly do: 'type';
  /** What is clicked first. */
  readonly on?: string;
  readonly text?: string;
  /** Letters that stand in for a text that is not known. */
  readonly length?: number;
  readonly everyMs?: number;
}

export interface DragStep {
  readonly do: 'drag';
  readonly on: string;
  readonly at?: Distance;
  readonly by: Distance;
  readonly moves?: number;
  readonly everyMs?: number;
}

const MAX_TEXT = 10_000;
const selector = () => string().min(1).max(1000);
const pause = () => number().min(0).max(60_000);
const point = () =>
  object({ x: number().integer().required(), y: number().integer().required() }).noUnknown();
const distance = () => point().required();
const place = () => point().default(undefined);
const on = { on: selector().required() };

const SHAPES: Readonly<Record<Step['do'], ObjectSchema<object>>> = {
  click: object({ ...on, at: place() }),
  'double-click': object({ ...on, at: place() }),
  hover: object(on),
  'wait-for': object(on),
  type: object({
    on: selector(),
    text: string().min(1).max(MAX_TEXT),
    length: number().integer().min(1).max(MAX_TEXT),
    everyMs: pause(),
  }).test(
    'what',
    'it needs either "text" or "length"',
    ({ text, length }) => (text === undefined) !== (length === undefined),
  ),
  key: object({
    key: string()
      .required()
      .test(
        'key',
        ({ value }) =>
          `"key" must be one character or one of ${Object.keys(KEYS).join(', ')}, got "${String(value)}"`,
        (key) => key in KEYS || [...key].length === 1,
      ),
    with: array(string<Modifier>().oneOf(MODIFIERS).required()).max(MODIFIERS.length).default(undefined),
  }),
  choose: object({ ...on, index: number().integer().min(0).max(100_000).required() }),
  drag: object({
    ...on,
    at: place(),
    by: distance(),
    moves: number().integer().min(1).max(1000),
    everyMs: pause(),
  }),
  scroll: object({ on: selector(), by: distance() }),
  wait: object({ ms: pause().required() }),
  navigate: object({ url: string().min(1).max(2000).required() }),
};

const fileSchema = object({ steps: array(object()).min(1).max(MAX_STEPS).required() })
  .noUnknown()
  .typeError('it must be an object with the list "steps": {"steps": [{"do": "click", "on": "#board-all"}]}');

/** Thrown when a file of steps cannot be used. The message names the step by its number, from 1. */
export class BadStepsError extends Error {
  override readonly name = 'BadStepsError';
}

function checked<T>(what: string, check: () => T): T {
  try {
    return check();
  } catch (error) {
    if (error instanceof ValidationError) throw new BadStepsError(`${what}: ${validationWords(error)}`);
    throw error;
  }
}

/** @throws BadStepsError */
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new BadStepsError(`the file of steps is no JSON${jsonFault(error as SyntaxError, text)}`);
  }
}

/** @throws BadStepsError */
function readStep(value: object, number: number): Step {
  const { do: deed, ...rest } = value as { do?: unknown };
  const known = Object.keys(SHAPES);
  if (typeof deed !== 'string' || !known.includes(deed)) {
    const came = deed === undefined ? 'it is missing' : `got ${JSON.stringify(deed)}`;
    throw new BadStepsError(`step ${number}: "do" must be one of ${known.join(', ')}; ${came}`);
  }
  const shape = SHAPES[deed as Step['do']].noUnknown().strict();
  return { do: deed, ...checked(`step ${number} (${deed})`, () => shape.validateSync(rest)) } as Step;
}

/**
 * Reads a file of steps: `{"steps": [{"do": "click", "on": "#board-all"}, …]}`.
 * @throws BadStepsError
 */
export function readSteps(text: string): Step[] {
  const value = parsed(text);
  const { steps } = checked('the file of steps', () => fileSchema.strict().validateSync(value));
  return steps.map((step, index) => readStep(step, index + 1));
}
