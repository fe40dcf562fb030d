import type { Recording, TimeRange } from '../recording/recording';
import { isUnchanged } from '../recording/redraw-effect';
import { writtenRedraws } from '../stings/redraw-writers';
import { mostOf } from '../statistics/most';
import { firstIndex } from '../statistics/search';

/** Redraws of one element, as the recorder labels it. */
export interface ElementRedraws {
  /** Label of the element that held what changed most; undefined where none was told. */
  readonly target: string | undefined;
  /** In how many redraws it held that: each is what one handler wrote before one frame. */
  readonly count: number;
  /** Those of which something lay in the part of the page that is shown. */
  readonly inView: number;
  /** Those that are known to have written what was there before. */
  readonly unchanged: number;
  /** Those that changed something one could see. */
  readonly visible: number;
  /** The function that wrote most of them, where any is known, and how many of them it wrote. */
  readonly functionId: number | undefined;
  readonly written: number;
  /** Where none is known: the function that ran last before most of them, which may have written them. */
  readonly ranBefore: number | undefined;
  readonly firstMs: number;
  readonly lastMs: number;
}

interface Growing {
  count: number;
  inView: number;
  unchanged: number;
  visible: number;
  readonly writers: Map<number, number>;
  readonly before: Map<number, number>;
  readonly firstMs: number;
  lastMs: number;
}

/** Redraws of a thread in a range by element, those with the most first. */
export function elementRedraws(
  recording: Recording,
  thread: number,
  { startMs, endMs }: TimeRange,
): ElementRedraws[] {
  const { redraw } = recording.events;
  const { startMs: starts, changed, inView, thread: threads } = redraw.columns;
  const written = writtenRedraws(recording, thread);
  const firstAt = redraw.firstFrom(startMs);
  let nextWritten = firstIndex(written.length, (at) => written[at]!.at >= firstAt);
  const found = new Map<string | undefined, Growing>();
  for (let at = firstAt; at < redraw.length && starts[at]! < endMs; at++) {
    if (threads[at] !== thread) continue;
    const target = redraw.value('target', at);
    let one = found.get(target);
    if (one === undefined) {
      one = {
        count: 0,
        inView: 0,
        unchanged: 0,
        visible: 0,
        writers: new Map<number, number>(),
        before: new Map<number, number>(),
        firstMs: starts[at]!,
        lastMs: starts[at]!,
      };
      found.set(target, one);
    }
    const isInView = inView[at] === 1;
    one.count++;
    if (isInView) one.inView++;
    if (isUnchanged(redraw.columns, at)) one.unchanged++;
    if (isInView && changed[at] === 1) one.visible++;
    one.lastMs = starts[at]!;
    while (nextWritten < written.length && written[nextWritten]!.at < at) nextWritten++;
    const writer = written[nextWritten];
    if (writer?.at !== at) continue;
    const counts = writer.isKnown ? one.writers : one.before;
    counts.set(writer.functionId, (counts.get(writer.functionId) ?? 0) + 1);
  }
  return [...found]
    .map(([target, { writers, before, ...sums }]) => {
      const most = mostOf(writers);
      const ranBefore = most === undefined ? mostOf(before)?.[0] : undefined;
      return { target, ...sums, functionId: most?.[0], written: most?.[1] ?? 0, ranBefore };
    })
    .sort((a, b) => b.count - a.count);
}
