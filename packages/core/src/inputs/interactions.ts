import type { RowContent } from '../format/rows';
import { appendTo } from '../recording/group';
import { MaxTree } from '../recording/max-tree';
import { memoizedPerRecording } from '../recording/memoize';
import type { Recording, TimeRange } from '../recording/recording';
import { firstIndex } from '../statistics/search';
import { actionLabel, actionOfGroup, isGivenUp, type Action } from './action';

type Input = RowContent<'input'>;

/** Events whose pictures came no further apart than this share one; the clock of Event Timing steps by 8 ms. */
const SAME_PICTURE_MS = 8;

/** The event a person ends a tap with, or the press of a key, by the one that begins it. */
const ENDING: Readonly<Record<string, string>> = { pointerdown: 'click', keydown: 'keyup' };

/** What a person did once, with all events it caused. */
export interface Interaction {
  readonly thread: number;
  readonly action: Action;
  readonly label: string;
  /** Label of what it was done to; empty when unknown. */
  readonly target: string;
  /** Start of the event that took longest, which is the delay of the interaction (Event Timing, section 2.3). */
  readonly startMs: number;
  readonly feltMs: number;
  /** Whether the delay was measured; else `feltMs` is only a bound it was below. */
  readonly measured: boolean;
  /** When the first listener began and the last one ended, among the events answered by the same picture. */
  readonly processingStartMs: number;
  readonly processingEndMs: number;
  /** Type of the event that took longest. */
  readonly type: string;
  /** While each of its events was handled. */
  readonly handled: readonly TimeRange[];
  /** Type of the event that ends it, where that was not reported: the page may have been left in it. */
  readonly unended?: string;
}

function endOf(input: Input): number {
  return input.startMs + input.durationMs;
}

/** While an event was handled; of one that was too quick to be reported, until when it was at the latest. */
function handlingOf({ startMs, processingStartMs, processingEndMs, belowMs, durationMs }: Input): TimeRange {
  const beganMs = processingStartMs ?? startMs;
  return { startMs: beganMs, endMs: processingEndMs ?? startMs + (belowMs ?? durationMs) };
}

/** An event that was reported counts before one of which only a bound is known. */
function longestOf(group: readonly Input[]): Input {
  const isLonger = (a: Input, b: Input) =>
    a.belowMs === undefined && b.belowMs !== undefined
      ? false
      : (a.belowMs !== undefined && b.belowMs === undefined) || b.durationMs > a.durationMs;
  return group.reduce((a, b) => (isLonger(a, b) ? b : a));
}

function fromGroup(group: readonly Input[], all: readonly Input[]): Interaction {
  const longest = longestOf(group);
  const naming = group.find((input) => input.target) ?? longest;
  const action = actionOfGroup(
    group.map(({ type }) => type),
    longest.type,
    naming.target ?? '',
  );
  const members = new Set(group);
  const samePicture = all.filter(
    (input) =>
      input.thread === longest.thread &&
      Math.abs(endOf(input) - endOf(longest)) <= SAME_PICTURE_MS &&
      input.startMs >= longest.startMs - SAME_PICTURE_MS &&
      input.processingStartMs !== undefined &&
      (members.has(input) || !input.interaction),
  );
  const within = (ms: number) => Math.min(Math.max(ms, longest.startMs), endOf(longest));
  const starts = samePicture.map((input) => input.processingStartMs!);
  const ends = samePicture.map((input) => input.processingEndMs ?? input.processingStartMs!);
  const measured = longest.belowMs === undefined;
  const types = new Set(group.map(({ type }) => type));
  const ending = [...types].flatMap((type) => ENDING[type] ?? [])[0];
  const unended = ending !== undefined && !types.has(ending) ? ending : undefined;
  return {
    thread: longest.thread,
    action,
    label: actionLabel(action, naming.target ?? ''),
    target: naming.target ?? '',
    startMs: longest.startMs,
    feltMs: measured ? longest.durationMs : longest.belowMs!,
    measured,
    processingStartMs: within(starts.reduce((a, b) => Math.min(a, b), longest.processingStartMs ?? Infinity)),
    processingEndMs: within(ends.reduce((a, b) => Math.max(a, b), longest.processingEndMs ?? -Infinity)),
    type: longest.type,
    handled: group.map(handlingOf),
    ...(unended === undefined ? {} : { unended }),
  };
}

/**
 * Groups the input events of a recording into interactions, as Event Timing does by `interactionId`. Events
 * that belong to none (such as mouse over) only widen the handling of the one they share a picture with.
 * @returns interactions in order of their start.
 */
export const interactionsOf = memoizedPerRecording((recording): readonly Interaction[] => {
  const inputs = [...recording.events.input.rows()];
  const groups = new Map<string, Input[]>();
  for (const input of inputs) {
    if (!input.interaction) continue;
    appendTo(groups, `${input.thread} ${input.interaction}`, input);
  }
  const alone = withQuickEvents([...groups.values()], inputs);
  const kept = [...groups.values()].filter((group) => !isGivenUp(group.map(({ type }) => type)));
  const grouped = kept.map((group) => fromGroup(group, neighbours(inputs, group)));
  const quick = alone.map((input) => fromGroup([input], []));
  return [...grouped, ...quick].sort((a, b) => a.startMs - b.startMs);
});

/**
 * Adds events that were too quick to be reported, and so have no interaction of their own, to the one they belong to: a
 * click to the press of the pointer before it that was reported without a click.
 * @returns those that belong to none
 */
function withQuickEvents(groups: readonly Input[][], inputs: readonly Input[]): Input[] {
  const open = new Map<number, Input[]>();
  const groupOf = new Map(groups.flatMap((group) => group.map((input) => [input, group] as const)));
  const alone: Input[] = [];
  for (const input of inputs) {
    const isQuick = input.belowMs !== undefined && !input.interaction;
    if (!isQuick) {
      const group = groupOf.get(input);
      if (group !== undefined && Object.hasOwn(ENDING, input.type)) open.set(input.thread, group);
      continue;
    }
    const before = open.get(input.thread);
    const [first] = before ?? [];
    const isEnd =
      before !== undefined &&
      first !== undefined &&
      before.some(({ type }) => ENDING[type] === input.type) &&
      before.every(({ type }) => type !== input.type) &&
      (!first.target || !input.target || first.target === input.target);
    if (isEnd) before.push(input);
    else alone.push(input);
    open.delete(input.thread);
  }
  return alone;
}

/** Inputs near a group in time: `inputs` is in order of start, so one look-up each way is enough. */
function neighbours(inputs: readonly Input[], group: readonly Input[]): Input[] {
  const first = group.reduce((least, { startMs }) => Math.min(least, startMs), Infinity) - SAME_PICTURE_MS;
  const last = group.reduce((most, input) => Math.max(most, endOf(input)), -Infinity) + SAME_PICTURE_MS;
  const near: Input[] = [];
  for (
    let at = firstIndex(inputs.length, (index) => inputs[index]!.startMs >= first);
    at < inputs.length && inputs[at]!.startMs <= last;
    at++
  )
    near.push(inputs[at]!);
  return near;
}

/** The ends of all interactions, in their order. */
const endings = memoizedPerRecording(
  (recording) => new MaxTree(interactionsOf(recording).map(({ startMs, feltMs }) => startMs + feltMs)),
);

/** Interactions that overlap a range, from their input to their picture, in order of their start. */
export function interactionsIn(recording: Recording, { startMs, endMs }: TimeRange): Interaction[] {
  const all = interactionsOf(recording);
  const end = firstIndex(all.length, (at) => all[at]!.startMs >= endMs);
  const found: Interaction[] = [];
  endings(recording).eachAbove(startMs, end, (index) => found.push(all[index]!));
  return found;
}
