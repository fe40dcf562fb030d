import type { Interaction } from '../inputs/interactions';
import { MAIN_THREAD, type Recording, type TimeRange } from '../recording/recording';
import { originalPath } from '../recording/original-path';
import type { Chain } from './chain';
import { handlerOf, scheduleOf, type Handler, type Schedule } from '../inputs/links';
import type { PageLoad } from './page-loads';
import { first, last } from '../lists/items';

/** What was going on between an input and its outcome. */
export type OutcomeStepName = 'waiting' | 'handling' | 'request' | 'timer' | 'worker' | 'loading' | 'drawing';

export interface OutcomeStep extends TimeRange {
  readonly name: OutcomeStepName;
  /** Of handling, and of work on another thread: the function that was entered, where it is known. */
  readonly functionId?: number;
  /** Of a request: its address. */
  readonly url?: string;
  /** Of a timer: the delay that was asked for. */
  readonly delayMs?: number;
}

/** What a request is called in a sentence. */
export function requestName({ url }: Pick<OutcomeStep, 'url'>): string {
  return originalPath(url ?? null) || 'a request';
}

/** What the steps lead to: the picture of what a handler wrote, or of the page that was loaded. */
export type StepsEnd = { readonly writer: Handler; readonly endMs: number } | PageLoad;

/** The browser tells of a request by another step of the clock than the page. */
const NEAR_MS = 1.5;

/** A step that is perhaps the rest of the one before it, as the body of an answer is of its request. */
type PerhapsRest = OutcomeStep & { readonly isRest?: boolean };

const endOf = ({ startMs, durationMs }: Handler) => startMs + durationMs;

/**
 * When the answer to a request had come that was asked for at a time; undefined where the browser did not tell. Sending
 * may itself take time, after which it is noted: the browser tells of no time before the handler that has sent it.
 */
function answeredMs(
  recording: Recording,
  { startMs, url, by }: Schedule,
  untilMs: number,
): number | undefined {
  const sender = by === undefined ? undefined : handlerOf(recording, by);
  const fromMs = (sender?.startMs ?? startMs) - NEAR_MS;
  let latestMs: number | undefined;
  for (const row of recording.events.request.overlapping(fromMs, untilMs)) {
    const endMs = row.startMs + row.durationMs;
    const isIt = row.url === url && row.startMs >= fromMs && endMs <= untilMs + NEAR_MS;
    if (isIt && endMs > (latestMs ?? -Infinity)) latestMs = endMs;
  }
  return latestMs;
}

/** What lay between asking for something and its coming: what was asked for, then perhaps a thread that was taken. */
function gap(recording: Recording, schedule: Schedule, untilMs: number): PerhapsRest[] {
  const { startMs, type, url, delayMs } = schedule;
  const two = (
    step: Pick<PerhapsRest, 'name' | 'url' | 'delayMs' | 'isRest'>,
    dueMs: number,
  ): PerhapsRest[] => {
    const atMs = Math.min(Math.max(dueMs, startMs), untilMs);
    return [
      { ...step, startMs, endMs: atMs },
      { name: 'waiting', startMs: atMs, endMs: untilMs },
    ];
  };
  if (type === 'request') {
    const answered = answeredMs(recording, schedule, untilMs);
    const about = url === undefined ? {} : { url };
    return two({ name: 'request', ...about, isRest: answered === undefined }, answered ?? untilMs);
  }
  if (schedule.to !== undefined && schedule.to !== MAIN_THREAD)
    return [{ name: 'worker', startMs, endMs: untilMs }];
  if (type === 'interval')
    return two({ name: 'timer', ...(delayMs === undefined ? {} : { delayMs }) }, untilMs);
  if (type === 'timer' && delayMs !== undefined) return two({ name: 'timer', delayMs }, startMs + delayMs);
  return [{ name: 'waiting', startMs, endMs: untilMs }];
}

/** The steps of a page's load. */
function loading({ beganMs, answeredMs: answered, paintMs, path }: PageLoad): OutcomeStep[] {
  const shownMs = paintMs ?? beganMs;
  const atMs = Math.min(answered ?? beganMs, shownMs);
  return [
    { name: 'request', url: path, startMs: beganMs, endMs: atMs },
    { name: 'loading', startMs: atMs, endMs: shownMs },
  ];
}

/**
 * From the input to the end of the last step, each step where the one before it ends; what would overlap or lie beyond is cut,
 * what has no length left out.
 */
function inOrder(steps: readonly PerhapsRest[], startMs: number): OutcomeStep[] {
  const ordered: OutcomeStep[] = [];
  const untilMs = last(steps).endMs;
  let atMs = startMs;
  for (const { isRest = true, ...whole } of steps) {
    const step = { ...whole, endMs: Math.min(whole.endMs, untilMs) };
    if (step.endMs <= atMs) continue;
    const before = ordered.at(-1);
    const isSame =
      before?.name === step.name && before.url === step.url && before.functionId === step.functionId;
    if (isSame && isRest) ordered[ordered.length - 1] = { ...before!, endMs: step.endMs };
    else ordered.push({ ...step, startMs: atMs });
    atMs = step.endMs;
  }
  return ordered;
}

/** The way from an input to its outcome, from cause to cause: each step begins where the one before it ends. */
export function stepsTo(
  recording: Recording,
  { startMs, processingStartMs }: Interaction,
  { roots, handlers }: Chain,
  end: StepsEnd,
): OutcomeStep[] {
  const isPage = 'beganMs' in end;
  const ending = isPage ? handlers.findLast((handler) => handler.startMs <= end.beganMs) : end.writer;
  const tail = isPage
    ? loading(end)
    : [{ name: 'drawing', startMs: Math.min(endOf(end.writer), end.endMs), endMs: end.endMs } as const];
  const isRoot = new Set(roots);
  const met = new Set<Handler>();
  let steps: PerhapsRest[] = tail;
  let untilMs = first(tail).startMs;
  for (let at = ending; at !== undefined && !met.has(at);) {
    met.add(at);
    const entered = at.function === undefined ? {} : { functionId: at.function };
    const name = at.thread === MAIN_THREAD ? 'handling' : 'worker';
    steps = [{ name, ...entered, startMs: at.startMs, endMs: untilMs }, ...steps];
    const schedule: Schedule | undefined = isRoot.has(at) ? undefined : scheduleOf(recording, at);
    if (schedule === undefined) break;
    steps = [...gap(recording, schedule, at.startMs), ...steps];
    untilMs = schedule.startMs;
    at = schedule.by === undefined ? undefined : handlerOf(recording, schedule.by);
  }
  const firstMs = first(steps).startMs;
  return inOrder(
    [
      { name: 'waiting', startMs, endMs: isPage && ending === undefined ? processingStartMs : firstMs },
      ...steps,
    ],
    startMs,
  );
}
