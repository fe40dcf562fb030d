import type { Recording } from '../recording/recording';
import { readSteps, type Step } from './steps';

/** Pauses shorter than this are those of a quick hand. Milliseconds. */
const MIN_WAIT_MS = 50;
/** What a person thought about is not done again. Milliseconds. */
const MAX_WAIT_MS = 5000;
/** The answer to the last step is waited for. Milliseconds. */
const LAST_WAIT_MS = 1000;
const WAITS_OF_MS = 10;

/** What of a recording can be done again. */
export interface KeptSteps {
  readonly steps: readonly Step[];
  /** How often they were taken in it. */
  readonly times: number;
}

function waitOf(gapMs: number): Step[] {
  const ms = Math.min(MAX_WAIT_MS, Math.round(gapMs / WAITS_OF_MS) * WAITS_OF_MS);
  return ms < MIN_WAIT_MS ? [] : [{ do: 'wait', ms }];
}

/**
 * The steps by which a recording can be made again: those it was made by, else what a person did in it, with the
 * pauses between; undefined where neither is known.
 * @throws BadStepsError when the recording holds what is no step
 */
export function keptSteps({ header, events }: Recording): KeptSteps | undefined {
  if (header.replay !== undefined) {
    const { steps, times } = header.replay;
    return { steps: readSteps(JSON.stringify({ steps })), times };
  }
  const rows = [...events.step.rows()];
  if (rows.length === 0) return undefined;
  const taken = readSteps(`{"steps":[${rows.map(({ step }) => step).join(',')}]}`);
  const steps = taken.flatMap((step, index) => {
    const { startMs, durationMs } = rows[index]!;
    const next = rows[index + 1];
    const waits = next === undefined ? [] : waitOf(next.startMs - startMs - durationMs);
    return [step, ...waits];
  });
  return { steps: [...steps, { do: 'wait', ms: LAST_WAIT_MS }], times: 1 };
}

/** Steps as the text of a file of them, one a line. */
export function writeSteps(steps: readonly Step[]): string {
  return `{\n  "steps": [\n${steps.map((step) => `    ${JSON.stringify(step)}`).join(',\n')}\n  ]\n}\n`;
}

/** Steps that tell of what is typed only how long it is. */
export function withoutWords(steps: readonly Step[]): Step[] {
  return steps.map((step) => {
    if (step.do !== 'type' || step.text === undefined) return step;
    const { text, ...rest } = step;
    return { ...rest, length: [...text].length };
  });
}

/** Whether letters stand in for what was typed, as texts were not kept. */
export function lacksTexts(steps: readonly Step[]): boolean {
  return steps.some((step) => step.do === 'type' && step.text === undefined);
}
