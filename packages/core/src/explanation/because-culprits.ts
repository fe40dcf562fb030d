import { MAIN_THREAD, samplesOf, type Recording } from '../recording/recording';
import type { Anatomy } from './anatomy';
import { firstOwn, type Culprit } from './culprits';
import { codeOfLine } from '../sources/code-of-line';
import { calledClause, functionPart, ms, percent, text, times, type BecausePart } from './sentence';

/** Below this, a part of a delay is not worth a clause. */
const WORTH_SAYING_MS = 8;
const WORTH_SAYING_SHARE = 0.05;

export function worthSaying(valueMs: number, wholeMs: number): boolean {
  return valueMs >= Math.max(WORTH_SAYING_MS, wholeMs * WORTH_SAYING_SHARE);
}

/** Nearly all of it. */
export const NEARLY_ALL = 0.9;

/** Whether no more is known than that it was entered. */
export function isOnlyEntered({ entryMs, chargedMs }: Culprit): boolean {
  return entryMs > chargedMs * NEARLY_ALL;
}

/** How sure it is that a share of the time was a function's. */
export function knownAs(culprit: Culprit): string {
  const { exactMs, inferredMs, chargedMs } = culprit;
  if (exactMs > chargedMs * NEARLY_ALL || isOnlyEntered(culprit)) return '';
  return inferredMs > chargedMs / 2 ? 'probably about ' : 'by samples about ';
}

/** A line is named that had this share of what is charged to its function, by so many samples. */
const HOT_SHARE = 0.4;
const MIN_SAMPLES = 10;

/**
 * ", 62 % of that on line 26 (`bending += lever * …`)": where in a function the time went, if most of it was one line's.
 * @param of what it is a share of, and the words for that
 */
export function hotLineClause(
  recording: Recording,
  culprit: Culprit,
  of: { readonly wholeMs: number; readonly words: string } = {
    wholeMs: culprit.chargedMs,
    words: 'of that',
  },
): BecausePart[] {
  const [hottest] = culprit.hotLines;
  if (hottest === undefined || hottest.chargedMs < culprit.chargedMs * HOT_SHARE) return [];
  if (hottest.chargedMs < MIN_SAMPLES * samplesOf(recording, MAIN_THREAD).intervalMs) return [];
  const share = percent(hottest.chargedMs / of.wholeMs);
  const code = codeOfLine(recording, culprit.functionId, hottest.line);
  // In a page that is not isolated, how the time of a loop without calls falls on its lines is estimated.
  const how = recording.header.isolated === true ? '' : 'probably about ';
  return [
    text(`, ${how}${share} ${of.words} on line ${hottest.line}${code === undefined ? '' : ` (${code})`}`),
  ];
}

/**
 * "…, and 324 ms in layout forced 298 times by makeRoom", or nothing where little was forced.
 * @param lead words that lead to the figure
 */
export function forcedClause(
  recording: Recording,
  { forcedMs, forced, sting }: Anatomy,
  lead = ', and ',
): BecausePart[] {
  if (!worthSaying(forcedMs, sting.endMs - sting.startMs)) return [];
  const [worst] = forced;
  if (worst === undefined) return [text(lead), ms(forcedMs), text(' in layout forced from script')];
  const all = forced.reduce((sum, row) => sum + row.count, 0);
  const by =
    worst.function === undefined
      ? [text(' from script')]
      : [text(' by '), functionPart(recording, worst.function)];
  return [text(lead), ms(forcedMs), text(` in layout forced ${times(all)}`), ...by];
}

/** " Of the busy time by samples about 60 % went to sort, called 1,200 times." The own function comes before a library's. */
export function becauseOfCulprits(recording: Recording, anatomy: Anatomy): BecausePart[] {
  const { sting, culprits, blame } = anatomy;
  const busyMs = blame.totalMs - blame.idleMs - blame.dialogMs;
  const unexplained = unexplainedClause(blame.unexplainedMs, sting.endMs - sting.startMs);
  const worst =
    firstOwn(
      recording,
      culprits.filter((one) => worthSaying(one.chargedMs, busyMs)),
    ) ?? culprits[0];
  if (worst === undefined || !worthSaying(worst.chargedMs, busyMs)) return unexplained;
  const called = calledClause(recording, worst, sting.thread, sting);
  return [
    text(' Of the busy time '),
    text(`${knownAs(worst)}${percent(worst.chargedMs / busyMs)} went to `),
    functionPart(recording, worst.functionId),
    text(called),
    ...(isOnlyEntered(worst)
      ? [text(' and what it called, which was not seen')]
      : hotLineClause(recording, worst)),
    ...forcedClause(recording, anatomy, ', with '),
    text('.'),
    ...unexplained,
  ];
}

/** " For 240 ms of script no stack was sampled; …", or nothing. */
export function unseenClause(unseenMs: number, wholeMs: number): BecausePart[] {
  if (!worthSaying(unseenMs, wholeMs)) return [];
  return [
    text(' For '),
    ms(unseenMs),
    text(' of script no stack was sampled; what ran is inferred from the samples around it.'),
  ];
}

/** " Of all this, 40 ms are unexplained.", or nothing. */
export function unexplainedClause(unexplainedMs: number, wholeMs: number): BecausePart[] {
  if (!worthSaying(unexplainedMs, wholeMs)) return [];
  return [text(' Of all this, '), ms(unexplainedMs), text(' are unexplained.')];
}
