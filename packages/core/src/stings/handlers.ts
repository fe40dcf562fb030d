import { outermostFunction } from '../attribution/stack-facts';
import { partition } from '../attribution/partition';
import { originalPath } from '../recording/original-path';
import { recorderEntries } from '../sources/recorder-functions';
import { UNSEEN_SCRIPT, displayName, isOwnFunction } from '../recording/functions';
import { actionDeed } from '../inputs/action';
import { handlersIn, type Handler } from '../inputs/links';
import { interactionsIn, interactionsOf, type Interaction } from '../inputs/interactions';
import { appendTo } from '../recording/group';
import { memoizedPerThread } from '../recording/memoize';
import { mostOf } from '../statistics/most';
import type { Recording, TimeRange } from '../recording/recording';
import type { ReportedBusy } from './reported-busy';
import { frameElsewhere } from './frame-elsewhere';

/** Invokers that say no more than the kind of entry does. */
const TOLD_BY_ENTRY = /^(FrameRequestCallback|TimerHandler:.*|IdleRequestCallback)$/;

const ENTRY_NAMES: Record<string, string> = {
  'user-callback': 'Callback',
  'event-listener': 'Listener',
  'resolve-promise': 'Promise callback',
  'reject-promise': 'Promise callback',
  'classic-script': 'Script',
  'module-script': 'Script',
};

function entryName(handler: Handler): string {
  if (handler.invoker.startsWith('TimerHandler:')) return 'Timer';
  if (handler.invoker.startsWith('FrameRequestCallback')) return 'Frame callback';
  return ENTRY_NAMES[handler.type] ?? 'Script';
}

const isScript = ({ type }: Handler) => type === 'classic-script' || type === 'module-script';

/** An entry into script as a label: "Timer pollDepartures". */
function labelOf(recording: Recording, handler: Handler): string {
  const entered = handler.function === undefined ? undefined : recording.functions.get(handler.function);
  const name = displayName(entered);
  if (handler.invoker.startsWith('fetch ')) return `Answer to ${originalPath(handler.invoker.slice(6))}`;
  const within = name.replace(/^anonymous (?=in )/, '');
  if (name !== '(anonymous)') return `${entryName(handler)} ${within}`;
  return TOLD_BY_ENTRY.test(handler.invoker)
    ? entryName(handler)
    : `${entryName(handler)} ${isScript(handler) ? originalPath(handler.invoker) : `of ${handler.invoker}`}`;
}

function sayingOf(handler: Handler): Labelled['says'] {
  if (handler.function !== undefined) return 2;
  return handler.invoker.startsWith('fetch ') ? 1 : 0;
}

/** Entries that overlap one before them by more than this share were told of twice. */
const SAME_ENTRY_SHARE = 0.5;

/** How long each entry into script took, by its label, in order of time; what two sources tell of counts once. */
export const entriesByLabel = memoizedPerThread(
  (recording, thread): ReadonlyMap<string, readonly number[]> => {
    const entries = new Map<string, number[]>();
    let untilMs = -Infinity;
    const isRecorders = recorderEntries(recording);
    for (const handler of recording.events.handler.rows()) {
      if (handler.thread !== thread || isRecorders(handler)) continue;
      const endMs = handler.startMs + handler.durationMs;
      const sharedMs = Math.min(untilMs, endMs) - handler.startMs;
      if (sharedMs > handler.durationMs * SAME_ENTRY_SHARE && handler.function === undefined) continue;
      untilMs = Math.max(untilMs, endMs);
      appendTo(entries, labelOf(recording, handler), handler.durationMs);
    }
    return entries;
  },
);

interface Labelled {
  readonly label: string;
  /** How much it says: 2 where the function that was entered is known, 1 where the request it answers is. */
  readonly says: 0 | 1 | 2;
  /** Whether own code was entered. */
  readonly isOwn: boolean;
  ms: number;
}

/** The labels of the entries in a range, each with the time of all that have it, the longest first. */
function labelsIn(recording: Recording, thread: number, range: TimeRange): Labelled[] {
  const labels = new Map<string, Labelled>();
  const isRecorders = recorderEntries(recording);
  for (const handler of handlersIn(recording, thread, range)) {
    if (isRecorders(handler)) continue;
    const label = labelOf(recording, handler);
    const isOwn = handler.function !== undefined && isOwnFunction(recording, handler.function);
    const known = labels.get(label) ?? { label, says: sayingOf(handler), isOwn, ms: 0 };
    const endMs = Math.min(handler.startMs + handler.durationMs, range.endMs);
    known.ms += endMs - Math.max(handler.startMs, range.startMs);
    labels.set(label, known);
  }
  return [...labels.values()].sort((a, b) => b.ms - a.ms);
}

/** The longest; one that says more where it is not much shorter. */
function naming(labels: readonly Labelled[]): Labelled | undefined {
  return labels
    .filter(({ ms }) => ms >= labels[0]!.ms / 2)
    .reduce<Labelled | undefined>((a, b) => (a !== undefined && a.says >= b.says ? a : b), undefined);
}

/** A label for what goes on in a stretch with pauses, by the entries into script that took most of it. */
export function entryLabel(recording: Recording, thread: number, range: TimeRange): string {
  return naming(labelsIn(recording, thread, range))?.label ?? NOT_SEEN;
}

/** Code is named for a block only where it accounts for this share of it. */
const NAMING_SHARE = 0.5;
export const NOT_SEEN = 'Work of the browser or short scripts';

export const HANG_NOT_SEEN = 'Hang in code that was not seen';

/** The outermost function that ran for most of a range, as exact calls, samples or the watchdog tell. */
function functionOfMost(recording: Recording, thread: number, range: TimeRange): string | undefined {
  const leastMs = (range.endMs - range.startMs) * NAMING_SHARE;
  const ms = new Map<number, number>();
  for (const segment of partition(recording, thread, range)) {
    const outermost = outermostFunction(recording, segment);
    if (outermost === undefined || outermost === UNSEEN_SCRIPT) continue;
    ms.set(outermost, (ms.get(outermost) ?? 0) + segment.endMs - segment.startMs);
  }
  const most = mostOf(ms);
  return most !== undefined && most[1] >= leastMs
    ? `Script ${displayName(recording.functions.get(most[0]))}`
    : undefined;
}

/** What the handling of an interaction is called where it is told apart from the delay that was felt. */
function handlingLabel({ action, target }: Interaction): string {
  return `Handling of ${actionDeed(action, target)}`;
}

/** How long each interaction was handled, by the label of its handling. Milliseconds. */
export const handlingByLabel = memoizedPerThread(
  (recording, thread): ReadonlyMap<string, readonly number[]> => {
    const handled = new Map<string, number[]>();
    for (const interaction of interactionsOf(recording)) {
      if (interaction.thread !== thread) continue;
      const ms = interaction.processingEndMs - interaction.processingStartMs;
      appendTo(handled, handlingLabel(interaction), ms);
    }
    return handled;
  },
);

/** The interaction whose handling makes up most of a block. */
function handledIn(recording: Recording, thread: number, range: TimeRange): Interaction | undefined {
  const leastMs = (range.endMs - range.startMs) * NAMING_SHARE;
  return interactionsIn(recording, range).find(
    ({ thread: on, processingStartMs, processingEndMs }) =>
      on === thread &&
      Math.min(processingEndMs, range.endMs) - Math.max(processingStartMs, range.startMs) >= leastMs,
  );
}

/**
 * A label for one unbroken block. Own code names it, or else the input that was handled in it, or else other code. Code
 * is named only where it accounts for most of the block: a short script beside an endless loop is a bystander.
 * @param source what told of the block
 */
export function blockLabel(
  recording: Recording,
  thread: number,
  range: TimeRange,
  source: ReportedBusy['source'],
): string {
  const labels = labelsIn(recording, thread, range);
  const lengthMs = range.endMs - range.startMs;
  const best = naming(labels);
  const handled = best?.isOwn ? undefined : handledIn(recording, thread, range);
  if (handled !== undefined) return handlingLabel(handled);
  if (best !== undefined && best.ms >= lengthMs * NAMING_SHARE) return best.label;
  const known = functionOfMost(recording, thread, range);
  if (known !== undefined) return known;
  const elsewhere = frameElsewhere(recording, thread, range);
  if (elsewhere !== undefined) return `Work in ${elsewhere}`;
  if (source === 'watchdog') return HANG_NOT_SEEN;
  const scriptMs = labels.reduce((sum, { ms }) => sum + ms, 0);
  return best !== undefined && scriptMs >= lengthMs * NAMING_SHARE
    ? `Several scripts, the longest ${best.label}`
    : NOT_SEEN;
}
