import { roundText } from '../words/figures';
import { callLogOf } from '../calls/call-log';
import { canonicalFunction } from '../attribution/call-path';
import { CallLodIndex, type DrawnCalls } from './call-lod-index';
import type { CallSpans } from '../recording/call-spans';
import { UNSEEN_SCRIPT, displayName, ownerOf } from '../recording/functions';
import { memoizedPerThread } from '../recording/memoize';
import type { Recording } from '../recording/recording';
import { busyIntervals } from '../stings/busy-intervals';
import { thresholdsOf } from '../format/thresholds';
import { DrawnWriter } from './drawn-items';
import { EventRows } from './event-rows';
import type { Lane } from './lane';
import { itemStyleCode, type ItemStyle } from './item-styles';

const MAX_DEPTHS = 40;
const FULL = 255;
const HALF = 0.5;
const ENGINE_LOOKS = new Set(
  (['style', 'layout', 'paint', 'collection', 'other'] as const).map(itemStyleCode),
);
/** Row of the busy stretches; the calls stand under it. */
const TASK_ROWS = 1;

/** What a number of a thread's lane stands for. */
export type ThreadItem =
  | { readonly type: 'task'; readonly index: number }
  | { readonly type: 'call'; readonly spans: CallSpans; readonly index: number; readonly exact: boolean };

/** What the lane of a thread is drawn from. Tasks have numbers by threes from 0, exact calls from 1, others from 2. */
export const threadParts = memoizedPerThread((recording, thread) => {
  const { exact, sampled } = callLogOf(recording, thread);
  return {
    stretches: busyIntervals(recording, thread),
    exact: new CallLodIndex(recording, exact),
    sampled: new CallLodIndex(recording, sampled),
  };
});

const TYPES = 3;

/** What a number in the lane of a thread stands for. */
export function threadItem(recording: Recording, thread: number, ref: number): ThreadItem {
  const { exact, sampled } = threadParts(recording, thread);
  const index = Math.floor(ref / TYPES);
  if (ref % TYPES === 0) return { type: 'task', index };
  const isExact = ref % TYPES === 1;
  return { type: 'call', spans: isExact ? exact.spans : sampled.spans, index, exact: isExact };
}

/** What calls of a function look like: by whose code it is, or by the kind of the engine's work. */
export function styleOfFunction(recording: Recording, functionId: number): ItemStyle {
  if (functionId === UNSEEN_SCRIPT) return 'unseen';
  const recorded = recording.functions.get(functionId);
  return recorded?.activity ?? ownerOf(recorded);
}

/** The work of one thread: busy stretches, those too long marked, and under them who called whom. */
export function threadLane(recording: Recording, thread: number, title: string): Lane | undefined {
  const { stretches, exact, sampled } = threadParts(recording, thread);
  const calls = exact.spans.length + sampled.spans.length;
  if (stretches.length === 0 && calls === 0) return undefined;
  const { longTaskMs } = thresholdsOf(recording.header);
  const tasks = new EventRows(
    stretches.map(({ startMs, endMs }, index) => ({
      startMs,
      endMs,
      style: itemStyleCode(endMs - startMs > longTaskMs ? 'long-task' : 'task'),
      ref: index * TYPES,
    })),
    TASK_ROWS,
  );
  const functionOf = (ref: number) => {
    const item = threadItem(recording, thread, ref);
    return item.type === 'task' ? undefined : recording.stacks.functionOf(item.spans.stacks[item.index]!);
  };
  const canonicalOf = (ref: number) => {
    const functionId = functionOf(ref);
    return functionId === undefined ? undefined : canonicalFunction(recording, functionId);
  };
  const words = (ref: number) => {
    const functionId = canonicalOf(ref);
    if (functionId !== undefined) return displayName(recording.functions.get(functionId));
    const { startMs, endMs } = stretches[Math.floor(ref / TYPES)]!;
    return `${roundText(endMs - startMs)} ms`;
  };
  const styles = new Map<number, number>();
  const styleOf = (functionId: number) => {
    let style = styles.get(functionId);
    if (style === undefined)
      styles.set(functionId, (style = itemStyleCode(styleOfFunction(recording, functionId))));
    return style;
  };
  const push = (writer: DrawnWriter, rows: CallLodIndex, type: number, calls: DrawnCalls, at: number) => {
    const [index, startMs, endMs] = [calls.indexes[at]!, calls.startsMs[at]!, calls.endsMs[at]!];
    const filled = calls.filled[at]!;
    const single = styleOf(recording.stacks.functionOf(rows.spans.stacks[index]!));
    const isEngine = ENGINE_LOOKS.has(single);
    const merged =
      calls.others[at]! <= HALF ? itemStyleCode('own') : isEngine ? single : itemStyleCode('library');
    writer.push({
      startMs,
      endMs,
      row: calls.depths[at]! + TASK_ROWS,
      style: endMs - startMs > writer.pixelMs || filled === 1 ? single : merged,
      filled: Math.round(filled * FULL),
      ref: index * TYPES + type,
    });
  };
  return {
    functionOf: canonicalOf,
    id: `thread ${thread}`,
    kind: 'thread',
    title,
    thread,
    rows: TASK_ROWS + Math.min(MAX_DEPTHS, Math.max(exact.depth, sampled.depth)),
    count: calls,
    draw(range, pixels) {
      const keyOf = (ref: number) => (ref % TYPES === 0 ? -1 - ref : functionOf(ref)!);
      const writer = new DrawnWriter(range, pixels, words, keyOf);
      tasks.draw(writer);
      for (const [type, rows] of [exact, sampled].entries()) {
        const drawn = rows.draw(range, pixels, MAX_DEPTHS);
        for (let at = 0; at < drawn.length; at++) push(writer, rows, type + 1, drawn, at);
      }
      return writer.items();
    },
    at(ms, row, withinMs) {
      if (row < TASK_ROWS) return tasks.at(ms, 0, withinMs);
      const inExact = exact.at(ms, row - TASK_ROWS, withinMs);
      if (inExact !== undefined) return inExact * TYPES + 1;
      const inSampled = sampled.at(ms, row - TASK_ROWS, withinMs);
      return inSampled === undefined ? undefined : inSampled * TYPES + 2;
    },
  };
}
