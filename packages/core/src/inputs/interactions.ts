import type { RowContent } from '../format/rows';
import { oncePerRecording } from '../recording/once';
import { actionLabel, actionOf, type Action } from './action';

type Input = RowContent<'input'>;

/** Events whose pictures came no further apart than this share one; the clock of Event Timing steps by 8 ms. */
const SAME_PICTURE_MS = 8;

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
  /** Whether the delay was measured, or only known to be below `feltMs`. */
  readonly measured: boolean;
  /** When the first listener began and the last one ended, among the events answered by the same picture. */
  readonly processingStartMs: number;
  readonly processingEndMs: number;
  /** Type of the event that took longest. */
  readonly type: string;
}

function endOf(input: Input): number {
  return input.startMs + input.durationMs;
}

function fromGroup(group: readonly Input[], all: readonly Input[]): Interaction {
  const longest = group.reduce((a, b) => (b.durationMs > a.durationMs ? b : a));
  const naming = group.find((input) => input.target) ?? longest;
  const edit = group.find((input) => actionOf(input.type, input.target ?? '') === 'type') ?? longest;
  const action = actionOf(edit.type, naming.target ?? '');
  const samePicture = all.filter(
    (input) =>
      input.thread === longest.thread &&
      Math.abs(endOf(input) - endOf(longest)) <= SAME_PICTURE_MS &&
      input.startMs >= longest.startMs - SAME_PICTURE_MS &&
      input.processingStartMs !== undefined &&
      (group.includes(input) || !input.interaction),
  );
  const within = (ms: number) => Math.min(Math.max(ms, longest.startMs), endOf(longest));
  const starts = samePicture.map((input) => input.processingStartMs!);
  const ends = samePicture.map((input) => input.processingEndMs ?? input.processingStartMs!);
  const measured = longest.belowMs === undefined;
  return {
    thread: longest.thread,
    action,
    label: actionLabel(action, naming.target ?? ''),
    target: naming.target ?? '',
    startMs: longest.startMs,
    feltMs: measured ? longest.durationMs : longest.belowMs!,
    measured,
    processingStartMs: within(Math.min(...starts, longest.processingStartMs ?? Infinity)),
    processingEndMs: within(Math.max(...ends, longest.processingEndMs ?? -Infinity)),
    type: longest.type,
  };
}

/**
 * Groups the input events of a recording into interactions, as Event Timing does by `interactionId`. Events
 * that belong to none (such as mouse over) only widen the handling of the one they share a picture with.
 * @returns interactions in order of their start.
 */
export const interactionsOf = oncePerRecording((recording): readonly Interaction[] => {
  const inputs = [...recording.events.input.rows()];
  const groups = new Map<string, Input[]>();
  for (const input of inputs) {
    if (!input.interaction) continue;
    const key = `${input.thread} ${input.interaction}`;
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [input]);
    else group.push(input);
  }
  const grouped = [...groups.values()].map((group) => fromGroup(group, neighbours(inputs, group)));
  const quick = inputs.filter((input) => input.belowMs !== undefined && !input.interaction);
  const alone = quick.map((input) => fromGroup([input], []));
  return [...grouped, ...alone].sort((a, b) => a.startMs - b.startMs);
});

/** Inputs near a group in time: `inputs` is in order of start, so one look-up each way is enough. */
function neighbours(inputs: readonly Input[], group: readonly Input[]): Input[] {
  const first = Math.min(...group.map((input) => input.startMs)) - SAME_PICTURE_MS;
  const last = Math.max(...group.map(endOf)) + SAME_PICTURE_MS;
  let low = 0;
  let high = inputs.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (inputs[middle]!.startMs < first) low = middle + 1;
    else high = middle;
  }
  const near: Input[] = [];
  for (let at = low; at < inputs.length && inputs[at]!.startMs <= last; at++) near.push(inputs[at]!);
  return near;
}
