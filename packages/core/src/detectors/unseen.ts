import { captureModeOf, isOfPage } from '../format/header';
import type { Recording } from '../recording/recording';
import { HANG_NOT_SEEN, NOT_SEEN } from '../stings/handlers';
import type { Anatomy } from '../explanation/anatomy';
import { ms, text, times, type BecausePart } from '../explanation/sentence';
import type { Sting, StingDetail } from '../stings/sting';
import type { Joiner } from './detector';

export interface UnseenDetail extends StingDetail {
  readonly type: 'unseen';
  /** How often the thread was busy with what was not seen, and for how long in all. */
  readonly times: number;
  readonly totalMs: number;
  /** What would make it seen. */
  readonly remedy: string;
}

/** Labels of what nothing else is known of, and what several of each are called. */
const UNSEEN: Readonly<Record<string, string>> = {
  [HANG_NOT_SEEN]: 'Hangs in code that was not seen',
  [NOT_SEEN]: 'Busy in code that was not seen',
};

/** What would have made the code seen, in words. */
function remedyOf({ header }: Recording): string {
  if (!isOfPage(header)) return 'What was recorded did not tell what ran in it.';
  if (captureModeOf(header) !== 'everyday') {
    return 'It ran in scripts that were left alone, in a frame from elsewhere, or in the browser itself.';
  }
  return header.available.includes('js-self-profiling')
    ? 'No sample and no entry into script was seen in it: a recording in fine mode tells whether it is script of this page.'
    : 'This browser takes no samples: a recording in fine mode shows what runs in it.';
}

/**
 * The same stings, but all of which nothing is known but that the thread was busy are one, the longest, that tells of
 * the others: they have the same remedy. Hangs that only the watchdog saw are one of their own.
 */
function join(recording: Recording, stings: readonly Sting[]): readonly Sting[] {
  return Object.entries(UNSEEN).reduce((all, [label, joinedLabel]) => {
    const isUnseen = (sting: Sting) =>
      sting.label === label && sting.interaction === undefined && sting.detail === undefined;
    const unseen = all.filter(isUnseen);
    if (unseen.length < 2) return all;
    const longest = unseen.reduce((a, b) => (b.feltMs > a.feltMs ? b : a));
    const detail: UnseenDetail = {
      type: 'unseen',
      times: unseen.length,
      totalMs: unseen.reduce((sum, { feltMs }) => sum + feltMs, 0),
      remedy: remedyOf(recording),
    };
    return [...all.filter((sting) => !isUnseen(sting)), { ...longest, label: joinedLabel, detail }];
  }, stings);
}

function because(
  _recording: Recording,
  { sting }: Anatomy,
  { times: often, totalMs, remedy }: UnseenDetail,
): BecausePart[] {
  return [
    text(`The main thread was busy ${times(often)} with code that was not seen, for `),
    ms(totalMs),
    text(' in all, the longest for '),
    ms(sting.feltMs, true),
    text(`. ${remedy}`),
  ];
}

export const unseen: Joiner<UnseenDetail> = { detail: 'unseen', join, because };
