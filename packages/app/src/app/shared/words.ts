import {
  decimalText,
  BREAKDOWN_LABELS,
  shownBreakdown,
  type BreakdownPart,
  type ReadNotice,
  type TimeBreakdown,
} from '@nettle-patch/core';
import type { Failure } from '../../workers/failure';
import type { LiveProblem } from '../../workers/live/live-state';
import type { ItemCard } from '../../workers/analysis/item-details-types';

/** What happened, why, and what to do: the words for every failure, in one place. */
const FAILURES: Record<Failure['code'], (detail: string) => string> = {
  'not-a-recording': (detail) =>
    `This file cannot be used: ${detail}. Choose a recording (.nettle.jsonl, .nettle.jsonl.gz), performance entries or a profiler trace as JSON, an HTTP Archive, or folded stacks.`,
  'newer-version': (detail) => `This recording cannot be read: ${detail}. Use a newer Nettle Patch.`,
  empty: () => 'This file is empty, or was cut off before its first line ended. Export it again.',
  unreadable: (detail) => `This file cannot be read: ${detail}. Try to copy it again.`,
  'bad-steps': (detail) => `These steps cannot be done: ${detail}.`,
  'bad-trial': (detail) => `This trial cannot be used: ${detail}.`,
  'is-budget': () =>
    'This is a budget. Recordings are held against it on the command line: nettle-patch check FILE --budget BUDGET.',
  'store-full': () =>
    'The browser has no more room for recordings. Save some to files and delete them from the shelf, then try again.',
  'not-kept': () =>
    'This recording is not on the shelf of this browser. It may have been deleted, or kept elsewhere.',
  'analysis-ended': (detail) =>
    `The thread that reads and analyses has ended (${detail}) and was started again. What was recorded is still on the shelf.`,
  'recording-ended': (detail) =>
    `The thread that takes recordings has ended (${detail}) and is started again. It goes on with what it wrote.`,
  unexpected: (detail) => `Something went wrong: ${detail}. What was recorded is still on the shelf.`,
};

export function failureWords(failure: Failure): string {
  return FAILURES[failure.code](failure.detail);
}

const PROBLEMS: Record<LiveProblem, string> = {
  'target-left':
    'The page was closed, left for another site or crashed. What it had sent until then is kept.',
  'store-full':
    'The browser has no more room, so recording was stopped. What was kept until then is on the shelf. Delete or export recordings to make room.',
  'connection-lost':
    'The connection to the server is lost. What came until then is kept. The page holds what it records now and sends it once the server is back; or stop here.',
  'bad-rows':
    'What the page sent could not be kept: it is no recording. Reload the page, so that it gets the recorder of this version, and record again.',
  'no-answer':
    'The page does not answer. It may be hanging: it answers when its main thread is free again, or reload it.',
};

export function problemWords(problem: LiveProblem): string {
  return PROBLEMS[problem];
}

const NOTICES: Record<ReadNotice['code'], (notice: ReadNotice) => string> = {
  'bad-line': (notice) =>
    `${notice.line === undefined ? 'A line' : `Line ${notice.line}`} was passed over: ${notice.detail}.`,
  'cut-off': (notice) => `The recording is cut off: ${notice.detail}. It was opened up to there.`,
  altered: (notice) => `Damaged: ${notice.detail}. What these lines say may be wrong.`,
  dropped: (notice) => `Not all was captured: ${notice.detail.replace(/\.$/, '')}.`,
  'too-large': (notice) => `The recording is very large: ${notice.detail}.`,
  'damaged-archive': (notice) => `The file is damaged: ${notice.detail}. It was opened up to there.`,
};

export function noticeWords(notice: ReadNotice): string {
  return NOTICES[notice.code](notice);
}

/** How quick a device is beside this computer: "4.1 × slower than this computer". */
export function speedWords(speed: number | undefined): string | undefined {
  if (speed === undefined) return undefined;
  if (speed > 1.15) return `${decimalText(speed, 1)} × slower than this computer`;
  return speed < 0.87
    ? `${decimalText(1 / speed, 1)} × quicker than this computer`
    : 'as quick as this computer';
}

const PARTS: Record<BreakdownPart, string> = { ...BREAKDOWN_LABELS, idleMs: 'idle, or off the main thread' };

export function partWords(part: BreakdownPart): string {
  return PARTS[part];
}

/** The kinds of work that are listed, with what each took. Milliseconds. */
export function shownParts(breakdown: TimeBreakdown): { part: BreakdownPart; name: string; ms: number }[] {
  return shownBreakdown(breakdown).map(({ part, ms }) => ({ part, name: partWords(part), ms }));
}

/** What a card tells, in one line. */
export function cardWords({ title, facts }: Pick<ItemCard, 'title' | 'facts'>): string {
  return [title, ...facts.map(({ label, text }) => `${label} ${text}`)].join(', ');
}
