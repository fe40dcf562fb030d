import type { TrialAnswer, TrialProblem, TrialQuestion } from './trial-messages';

/** Where a trial runs: a page in this browser or in another one, which is asked and answers. */
export interface TrialBench {
  /**
   * Asks, and waits for the answer; one that does not come in the time the question gives becomes the problem `endless`,
   * after which only `begin` is taken.
   * @throws Error when the page cannot be reached at all
   */
  ask(question: TrialQuestion): Promise<TrialAnswer>;
  close(): Promise<void>;
}

/** The problem of something that did not end in time. */
export const ENDLESS: TrialProblem = { kind: 'endless', message: '' };

/** Thrown when the page did not do what it is there for. */
export class TrialBenchError extends Error {
  override readonly name = 'TrialBenchError';
}

/** An answer that has what was asked for, as long as there is no problem. @throws TrialBenchError */
export function answered<Name extends 'begun' | 'checked' | 'turns' | 'blocks'>(
  answer: TrialAnswer,
  name: Name,
): NonNullable<TrialAnswer[Name]> | TrialProblem {
  if (answer.problem !== undefined) return answer.problem;
  const value = answer[name];
  if (value === undefined)
    throw new TrialBenchError('the page in which the trial runs did not answer as it must');
  return value;
}

/** Whether it went wrong. */
export function isProblem(given: unknown): given is TrialProblem {
  return typeof given === 'object' && given !== null && 'kind' in given;
}
