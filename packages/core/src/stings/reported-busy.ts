import { kindsOfRange } from '../attribution/range-breakdown';
import { KIND_CODES, kindOfCode } from '../attribution/segments';
import type { RowContent } from '../format/rows';
import { memoizedPerThread } from '../recording/memoize';
import { stableOrder } from '../recording/order';
import { callsOf, type Recording, type TimeRange } from '../recording/recording';
import { firstIndex } from '../statistics/search';
import { recorderMs } from './recorder-time';

/** An unbroken stretch in which a thread that a person may wait for was not free for an input. */
export interface ReportedBusy extends TimeRange {
  readonly thread: number;
  /** How long it was busy: without the time of a person in front of a dialog. Milliseconds. */
  readonly busyMs: number;
  /** What told of it: a task that has ended, script that was timed, or the watchdog alone. */
  readonly source: 'task' | 'script' | 'watchdog';
}

/** Entries into script closer to each other than this are parts of one task. */
const GAP_MS = 0.5;
/** A hang begins with the last sign of life and ends with the next, which come this often: it may be so much too long. */
const TICK_MS = 100;
/** From this share on that was the recorder's own, a block is none of the app's. */
const RECORDER_SHARE = 0.5;

/**
 * The busy stretches of the threads of the app: its tasks; script of which no task was told; and what the watchdog saw
 * hang, as far as no finished work accounts for it, as when a page was closed in the middle of a hang.
 * @param minMs shortest stretch of interest
 */
export function reportedBusy(recording: Recording, minMs: number): ReportedBusy[] {
  const threads = new Set([0, ...recording.threads.keys()]);
  return [...threads]
    .filter((thread) => !isWorker(recording, thread))
    .flatMap((thread) => blocksOfThread(recording, thread, minMs))
    .sort((a, b) => a.startMs - b.startMs);
}

interface BusyRange {
  readonly range: TimeRange | undefined;
  readonly source: ReportedBusy['source'];
}

/** The busy stretches of a thread of any length, each with what told of it. */
const busyRanges = memoizedPerThread((recording, thread): readonly BusyRange[] => {
  const reported = rangesIn(recording.events.task, thread);
  const tasks = merged(reported);
  const script = merged(scriptOf(recording, thread));
  const finished = merged([...tasks, ...script]);
  return [
    ...reported.map((range) => ({ range, source: 'task' as const })),
    ...script.map((range) => ({ range: longestLeft(range, tasks), source: 'script' as const })),
    ...hangsOf(recording, thread).map((range) => ({
      range: longestLeft(range, finished),
      source: 'watchdog' as const,
    })),
  ];
});

function blocksOfThread(recording: Recording, thread: number, minMs: number): ReportedBusy[] {
  return busyRanges(recording, thread).flatMap(({ range, source }): ReportedBusy[] => {
    const leastMs = source === 'watchdog' ? minMs + TICK_MS : minMs;
    if (range === undefined || range.endMs - range.startMs < leastMs) return [];
    const busyMs = range.endMs - range.startMs - dialogMs(recording, thread, range);
    if (busyMs < minMs || recorderMs(recording, thread, range) > busyMs * RECORDER_SHARE) return [];
    return [{ thread, ...range, busyMs, source }];
  });
}

/** Nobody waits for the thread of a worker. */
function isWorker(recording: Recording, thread: number): boolean {
  return recording.threads.get(thread)?.type === 'worker';
}

function rangesIn(table: Recording['events']['task' | 'handler'], thread: number): TimeRange[] {
  const { startMs, durationMs, thread: threads } = table.columns;
  const found: TimeRange[] = [];
  for (let at = 0; at < table.length; at++) {
    if (threads[at] === thread) found.push({ startMs: startMs[at]!, endMs: startMs[at]! + durationMs[at]! });
  }
  return found;
}

/** What was timed of script, by its entries and by exact calls. */
function scriptOf(recording: Recording, thread: number): TimeRange[] {
  const found = rangesIn(recording.events.handler, thread);
  callsOf(recording, thread).outermost(recording.range.startMs, recording.range.endMs, (start, end) =>
    found.push({ startMs: start, endMs: end }),
  );
  return found;
}

/** A hang is told of again and again while it lasts; the last word on each counts. */
function hangsOf(recording: Recording, thread: number): TimeRange[] {
  const longest = new Map<number, RowContent<'hang'>>();
  for (const hang of recording.events.hang.rows()) {
    if (hang.thread !== thread) continue;
    const before = longest.get(hang.startMs);
    if (before === undefined || before.durationMs <= hang.durationMs) longest.set(hang.startMs, hang);
  }
  return [...longest.values()].map(({ startMs, durationMs }) => ({ startMs, endMs: startMs + durationMs }));
}

/** Ranges in order of time, those that touch as one. */
function merged(ranges: readonly TimeRange[]): TimeRange[] {
  const starts = ranges.map(({ startMs }) => startMs);
  const joined: { startMs: number; endMs: number }[] = [];
  for (const index of stableOrder(starts)) {
    const { startMs, endMs } = ranges[index]!;
    const last = joined.at(-1);
    if (last !== undefined && startMs - last.endMs <= GAP_MS) last.endMs = Math.max(last.endMs, endMs);
    else joined.push({ startMs, endMs });
  }
  return joined;
}

/** The longest part of a range that others leave. @param others in order of time, without overlap */
function longestLeft(range: TimeRange, others: readonly TimeRange[]): TimeRange | undefined {
  const first = firstIndex(others.length, (at) => others[at]!.endMs > range.startMs);
  let longest: TimeRange | undefined;
  let atMs = range.startMs;
  const consider = (endMs: number) => {
    if (endMs - atMs > (longest === undefined ? 0 : longest.endMs - longest.startMs)) {
      longest = { startMs: atMs, endMs };
    }
  };
  for (let at = first; at < others.length && others[at]!.startMs < range.endMs; at++) {
    consider(others[at]!.startMs);
    atMs = Math.max(atMs, others[at]!.endMs);
  }
  if (atMs < range.endMs) consider(range.endMs);
  return longest;
}

const IS_DIALOG = Array.from({ length: KIND_CODES }, (_, code) => kindOfCode(code).activity === 'dialog');

function dialogMs(recording: Recording, thread: number, range: TimeRange): number {
  const sums = kindsOfRange(recording, thread, range);
  return sums.reduce((sum, ms, code) => (IS_DIALOG[code] ? sum + ms : sum), 0);
}
