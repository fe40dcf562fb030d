import type { Trial } from './trial';

/** Part of a trial: what comes before all alternatives, or one of them by its index. */
export type TrialPart = 'setUp' | number;

/** A line of a part, from 1. */
export interface TrialLine {
  readonly part: TrialPart;
  readonly line: number;
}

/** Results that are kept, so that no engine may leave out the work that made them; a power of two. */
const KEPT = 16;
const linesOf = (text: string) => text.split('\n').length;

/**
 * The module of one alternative: the text before all of them, the alternative as a function, and loops around it that are
 * its alone, so that what an engine learns of one alternative does not help or harm another.
 * @param isAsync whether it awaits
 */
export function trialModule({ setUp, alternatives }: Trial, at: number, isAsync: boolean): string {
  const loop = (before: string, call: string) =>
    `for (let turn = 0; turn < count; turn++) kept[turn & ${KEPT - 1}] = ${before}${call};`;
  return `${setUp}
;${isAsync ? 'async ' : ''}function nettlePatchAlternative() {
${alternatives[at]!.code}
}
export const once = nettlePatchAlternative;
export function turns(count, kept) { ${loop('', 'nettlePatchAlternative()')} }
export async function awaitedTurns(count, kept) { ${loop('await ', 'nettlePatchAlternative()')} }
`;
}

/** Where a line of the module of an alternative stands in the trial; undefined for lines that are in neither part. */
export function trialLineOf({ setUp, alternatives }: Trial, at: number, line: number): TrialLine | undefined {
  const before = linesOf(setUp);
  if (line >= 1 && line <= before) return { part: 'setUp', line };
  const own = line - before - 1;
  return own >= 1 && own <= linesOf(alternatives[at]!.code) ? { part: at, line: own } : undefined;
}
