import type { RowContent } from '../format/rows';
import { interactionsOf, type Interaction } from '../inputs/interactions';
import { appendTo } from '../recording/group';
import { memoizedPerRecording } from '../recording/memoize';
import type { Recording, TimeRange } from '../recording/recording';
import { firstIndex } from '../statistics/search';
import { chainOf, type Chain } from './chain';
import type { Handler } from '../inputs/links';
import { pageAfter, type PageLoad } from './page-loads';
import { stepsTo, type OutcomeStep } from './steps';

/** What comes later than this after an input is no longer taken for its outcome. */
const MAX_MS = 20_000;
/** A picture that comes this soon after the first is the same answer to a person. */
const SAME_ANSWER_MS = 20;

/** The last change on the screen that an input set going. */
export interface Outcome extends TimeRange {
  readonly interaction: Interaction;
  /** From the input to the picture. */
  readonly lengthMs: number;
  /** Label of what changed last, where it is known. */
  readonly target: string | undefined;
  /** How it came to it, from the input to the picture; the steps follow each other and sum to the whole. */
  readonly steps: readonly OutcomeStep[];
  readonly chain: Chain;
  /** The page it led to, where it did. */
  readonly page: PageLoad | undefined;
}

/** Redraws that changed something in view, by the handler that wrote them. */
const visibleRedraws = memoizedPerRecording((recording): ReadonlyMap<number, readonly number[]> => {
  const { redraw } = recording.events;
  const { changed, inView } = redraw.columns;
  const found = new Map<number, number[]>();
  for (let at = 0; at < redraw.length; at++) {
    const by = redraw.value('by', at);
    if (by !== undefined && changed[at] === 1 && inView[at] === 1) appendTo(found, by, at);
  }
  return found;
});

/** Redraws that changed something in view and were written by a handler. */
export function visibleRedrawsBy(recording: Recording, handler: number | undefined): RowContent<'redraw'>[] {
  const found = handler === undefined ? [] : (visibleRedraws(recording).get(handler) ?? []);
  return found.map((at) => recording.events.redraw.row(at));
}

/** The frame whose changes were counted at a time, where it was recorded. */
export function pictureAt({ events: { render } }: Recording, startMs: number): TimeRange | undefined {
  const at = render.firstFrom(startMs - 0.01);
  const picture = at < render.length ? render.row(at) : undefined;
  if (picture === undefined || Math.abs(picture.startMs - startMs) >= 0.1) return undefined;
  return { startMs: picture.startMs, endMs: picture.startMs + picture.durationMs };
}

/** When each thing was done, in order of time, by its label. */
const startsByLabel = memoizedPerRecording((recording): ReadonlyMap<string, readonly number[]> => {
  const starts = new Map<string, number[]>();
  for (const { label, startMs } of interactionsOf(recording)) appendTo(starts, label, startMs);
  return starts;
});

/** When the same thing is done again, or so long that nobody waits any more. */
function untilOf(recording: Recording, interaction: Interaction): number {
  const starts = startsByLabel(recording).get(interaction.label)!;
  const againMs =
    starts[firstIndex(starts.length, (at) => starts[at]! > interaction.startMs + SAME_ANSWER_MS)];
  return Math.min(againMs ?? Infinity, interaction.startMs + MAX_MS, recording.range.endMs);
}

/** Follows an input; undefined where nothing that it set going is known to have changed the screen later. */
function followed(recording: Recording, interaction: Interaction): Outcome | undefined {
  const untilMs = untilOf(recording, interaction);
  const chain = chainOf(recording, interaction, untilMs);
  const { startMs } = interaction;
  const page = pageAfter(recording, interaction, chain);
  if (page?.paintMs !== undefined) {
    const steps = stepsTo(recording, interaction, chain, page);
    const endMs = page.paintMs;
    return { interaction, startMs, endMs, lengthMs: endMs - startMs, target: page.path, steps, chain, page };
  }
  let last:
    { readonly endMs: number; readonly target: string | undefined; readonly writer: Handler } | undefined;
  for (const writer of chain.handlers) {
    for (const redraw of visibleRedrawsBy(recording, writer.id)) {
      const endMs = pictureAt(recording, redraw.startMs)?.endMs ?? redraw.startMs;
      if (endMs <= untilMs && endMs > (last?.endMs ?? -Infinity))
        last = { endMs, target: redraw.target, writer };
    }
  }
  const answeredMs = startMs + interaction.feltMs + SAME_ANSWER_MS;
  if (last === undefined || last.endMs <= answeredMs) return undefined;
  const { endMs, target } = last;
  const steps = stepsTo(recording, interaction, chain, last);
  return { interaction, startMs, endMs, lengthMs: endMs - startMs, target, steps, chain, page: undefined };
}

const byInput = memoizedPerRecording((recording): ReadonlyMap<Interaction, Outcome> => {
  const outcomes = new Map<Interaction, Outcome>();
  for (const interaction of interactionsOf(recording)) {
    const outcome = followed(recording, interaction);
    if (outcome !== undefined) outcomes.set(interaction, outcome);
  }
  return outcomes;
});

/** The outcome of an input; undefined where none came later than the answer. */
export function outcomeOf(recording: Recording, interaction: Interaction): Outcome | undefined {
  return byInput(recording).get(interaction);
}

/** The outcomes of all inputs that have one, in order of the inputs. */
export function outcomesOf(recording: Recording): readonly Outcome[] {
  return [...byInput(recording).values()];
}
