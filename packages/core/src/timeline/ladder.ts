import { coarsen } from '../attribution/coarsen';
import { partition } from '../attribution/partition';
import type { Segment } from '../attribution/segments';
import { interactionsOf, type Interaction } from '../inputs/interactions';
import { outcomeOf } from '../outcomes/outcome';
import { memoizedPerRecording } from '../recording/memoize';
import type { Recording, TimeRange } from '../recording/recording';
import { itemStyleCode, type ItemStyle } from './item-styles';

/** More pieces than this no row has room for. */
const MAX_PIECES = 240;
/** Pieces of one style closer than this are one. Milliseconds. */
const JOIN_MS = 0.01;

/** One interaction as a row of the ladder. */
export interface InteractionRow {
  /** Its place in `interactionsOf`. */
  readonly interaction: number;
  readonly label: string;
  readonly startMs: number;
  readonly feltMs: number;
  /** Whether the delay was measured, or only known to be below `feltMs`. */
  readonly measured: boolean;
  /** From the input to the last change on the screen that it set going, where that came after the answer. */
  readonly outcomeMs?: number;
}

/** What was done during a row, from its input. */
export interface InteractionSlice {
  /** Milliseconds from the input. */
  readonly fromMs: number;
  readonly toMs: number;
  /** Place in ITEM_STYLES. */
  readonly style: number;
}

function worstOf(rows: readonly InteractionRow[]): number {
  return rows.reduce((worst, { feltMs, measured }) => (measured ? Math.max(worst, feltMs) : worst), 0);
}

/** All interactions by label, the label with the longest delay first; those of one label in order of time. */
export const interactionRowsOf = memoizedPerRecording((recording): readonly InteractionRow[] => {
  const groups = new Map<string, InteractionRow[]>();
  interactionsOf(recording).forEach((one: Interaction, interaction) => {
    const { label, startMs, feltMs, measured } = one;
    const outcomeMs = outcomeOf(recording, one)?.lengthMs;
    const group = groups.get(label) ?? [];
    groups.set(label, group);
    const row = { interaction, label, startMs, feltMs, measured };
    group.push(outcomeMs === undefined ? row : { ...row, outcomeMs });
  });
  return [...groups.values()].sort((a, b) => worstOf(b) - worstOf(a)).flat();
});

function styleOf({ activity, owner }: Segment): ItemStyle | undefined {
  if (activity === 'idle') return undefined;
  if (activity === 'script') return owner;
  return activity === 'unexplained' ? 'unseen' : activity;
}

/** What was done during an interaction, no finer than a row can show. */
export function interactionSlices(recording: Recording, row: InteractionRow): InteractionSlice[] {
  const { startMs, feltMs } = row;
  const { thread } = interactionsOf(recording)[row.interaction]!;
  const range: TimeRange = { startMs, endMs: startMs + feltMs };
  const segments = coarsen([...partition(recording, thread, range)], range, MAX_PIECES);
  const pieces: { fromMs: number; toMs: number; readonly style: number }[] = [];
  for (const segment of segments) {
    const style = styleOf(segment);
    if (style === undefined) continue;
    const piece = {
      fromMs: segment.startMs - startMs,
      toMs: segment.endMs - startMs,
      style: itemStyleCode(style),
    };
    const last = pieces.at(-1);
    if (last?.style === piece.style && piece.fromMs - last.toMs < JOIN_MS) last.toMs = piece.toMs;
    else pieces.push(piece);
  }
  return pieces;
}
