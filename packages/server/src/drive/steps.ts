import { array, number, object, string, ValidationError, type ObjectSchema } from 'yup';

/** Steps that can be taken, each with what it needs. Times are milliseconds, distances CSS pixels. */
export type Step =
  | { readonly do: 'click' | 'double-click' | 'hover' | 'wait-for'; readonly on: string }
  | { readonly do: 'type'; readonly on?: string; readonly text: string; readonly everyMs?: number }
  | { readonly do: 'key'; readonly key: string }
  | {
      readonly do: 'drag';
      readonly on: string;
      readonly by: { readonly x: number; readonly y: number };
      readonly moves?: number;
      readonly everyMs?: number;
    }
  | { readonly do: 'scroll'; readonly on?: string; readonly by: { readonly x: number; readonly y: number } }
  | { readonly do: 'wait'; readonly ms: number }
  | { readonly do: 'navigate'; readonly url: string };

/** Names of keys that are not a character (WebDriver, section 17.4.2), as UI Events calls them. */
export const KEYS: Readonly<Record<string, string>> = {
  Backspace: '\uE003',
  Tab: '\uE004',
  Enter: '\uE007',
  Shift: '\uE008',
  Control: '\uE009',
  Alt: '\uE00A',
  Escape: '\uE00C',
  Space: ' ',
  PageUp: '\uE00E',
  PageDown: '\uE00F',
  End: '\uE010',
  Home: '\uE011',
  ArrowLeft: '\uE012',
  ArrowUp: '\uE013',
  ArrowRight: '\uE014',
  ArrowDown: '\uE015',
  Delete: '\uE017',
};

const selector = () => string().min(1).max(1000);
const pause = () => number().min(0).max(60_000);
const distance = () =>
  object({ x: number().integer().required(), y: number().integer().required() }).noUnknown().required();
const on = { on: selector().required() };

const SHAPES: Readonly<Record<Step['do'], ObjectSchema<object>>> = {
  click: object(on),
  'double-click': object(on),
  hover: object(on),
  'wait-for': object(on),
  type: object({ on: selector(), text: string().min(1).max(10_000).required(), everyMs: pause() }),
  key: object({
    key: string()
      .required()
      .test(
        'key',
        ({ value }) =>
          `"key" must be one character or one of ${Object.keys(KEYS).join(', ')}, got "${String(value)}"`,
        (key) => key in KEYS || [...key].length === 1,
      ),
  }),
  drag: object({ ...on, by: distance(), moves: number().integer().min(1).max(1000), everyMs: pause() }),
  scroll: object({ on: selector(), by: distance() }),
  wait: object({ ms: pause().required() }),
  navigate: object({ url: string().min(1).max(2000).required() }),
};

const fileSchema = object({ steps: array(object()).min(1).max(10_000).required() }).noUnknown();

/** Thrown when a file of steps cannot be used. The message names the step by its number, from 1. */
export class BadStepsError extends Error {
  override readonly name = 'BadStepsError';
}

function checked<T>(what: string, check: () => T): T {
  try {
    return check();
  } catch (error) {
    if (error instanceof ValidationError) throw new BadStepsError(`${what}: ${error.message}`);
    if (error instanceof SyntaxError) throw new BadStepsError(`${what} is no JSON: ${error.message}`);
    throw error;
  }
}

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
  const value: unknown = checked('the file of steps', () => JSON.parse(text) as unknown);
  const { steps } = checked('the file of steps', () => fileSchema.strict().validateSync(value));
  return steps.map((step, index) => readStep(step, index + 1));
}
