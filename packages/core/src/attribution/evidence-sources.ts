import type { RowContent } from '../format/rows';
import { UNKNOWN_FUNCTION } from '../recording/functions';
import { ABSENT_WHOLE } from '../recording/column';
import type { EventTables, Recording, TimeRange } from '../recording/recording';
import type { Evidence, EvidenceInterval } from './evidence';
import { EvidenceIntervals } from './evidence-intervals';

const NOTHING: Evidence = { kind: 'none' };
const BUSY: Evidence = { kind: 'busy' };
const PAUSED: Evidence = { kind: 'paused' };
const DRAWN: Evidence = { kind: 'drawing', certainty: 'measured' };
const DRAWN_PROBABLY: Evidence = { kind: 'drawing', certainty: 'inferred' };
const KNOWN = {
  style: { kind: 'known', activity: 'style' },
  layout: { kind: 'known', activity: 'layout' },
  paint: { kind: 'known', activity: 'paint' },
} as const satisfies Record<string, Evidence>;

/** A probe that took no longer found style and layout done already. */
const LITTLE_LEFT_MS = 1;

const PRIORITY = {
  paused: 7,
  rendered: 6,
  script: 5,
  entered: 4,
  painted: 3,
  drawing: 2,
  seen: 1.5,
  busy: 1,
} as const;

/** Numbers kinds of entries: by the function entered, or else by what entered it. */
class Pools {
  readonly #known = new Map<string, number>();

  of(entry: number, type: number, invoker: number): number {
    const key = entry === ABSENT_WHOLE ? `${type} ${invoker}` : `${entry}`;
    let pool = this.#known.get(key);
    if (pool === undefined) this.#known.set(key, (pool = this.#known.size));
    return pool;
  }
}

function claimHandlers(
  intervals: EvidenceIntervals,
  { handler }: EventTables,
  thread: number,
  range: TimeRange,
): void {
  const { startMs, durationMs, thread: threads, function: entries, type, invoker } = handler.columns;
  const pools = new Pools();
  handler.eachOverlapping(range.startMs, range.endMs, (at) => {
    if (threads[at] !== thread) return;
    const isKnown = entries[at] !== ABSENT_WHOLE;
    const evidence: Evidence = {
      kind: 'script',
      entry: isKnown ? entries[at]! : UNKNOWN_FUNCTION,
      pool: pools.of(entries[at]!, type[at]!, invoker[at]!),
    };
    const priority = isKnown ? PRIORITY.script : PRIORITY.entered;
    intervals.add(startMs[at]!, startMs[at]! + durationMs[at]!, evidence, priority);
  });
}

/**
 * Rendering as the engine tells of it. Style and layout may be due before the frame callbacks, as when the mouse
 * rests on something that may have moved: then the render probe finds nothing left to do, and what lies between the
 * last script and the callbacks is concluded to be drawing too.
 */
function claimDrawing(
  intervals: EvidenceIntervals,
  recording: Recording,
  thread: number,
  row: RowContent<'frame'>,
): void {
  const { startMs } = row;
  const endMs = startMs + row.durationMs;
  const { styleStartMs, renderStartMs = styleStartMs } = row;
  if (styleStartMs === undefined || renderStartMs === undefined) return;
  intervals.add(styleStartMs, endMs, DRAWN, PRIORITY.drawing);
  const probes = [...recording.events.render.overlapping(renderStartMs, endMs)];
  const probe = probes.find((render) => render.thread === thread && render.startMs >= renderStartMs);
  if (probe === undefined || probe.styleMs + probe.layoutMs > LITTLE_LEFT_MS) return;
  let scriptEndMs = renderStartMs;
  for (const handler of recording.events.handler.overlapping(startMs, renderStartMs)) {
    const handledMs = handler.startMs + handler.durationMs;
    scriptEndMs = scriptEndMs === renderStartMs ? handledMs : Math.max(scriptEndMs, handledMs);
  }
  intervals.add(scriptEndMs, probe.startMs, DRAWN_PROBABLY, PRIORITY.drawing);
}

/** Style and layout come inside a frame callback, paint after it, when other script may run first. */
function claimRendering(
  intervals: EvidenceIntervals,
  { render }: EventTables,
  thread: number,
  range: TimeRange,
): void {
  const { startMs, styleMs, layoutMs, paintMs, thread: threads } = render.columns;
  render.eachOverlapping(range.startMs, range.endMs, (at) => {
    if (threads[at] !== thread) return;
    const styledMs = startMs[at]! + styleMs[at]!;
    const laidOutMs = styledMs + layoutMs[at]!;
    intervals.add(startMs[at]!, styledMs, KNOWN.style, PRIORITY.rendered);
    intervals.add(styledMs, laidOutMs, KNOWN.layout, PRIORITY.rendered);
    intervals.add(laidOutMs, laidOutMs + paintMs[at]!, KNOWN.paint, PRIORITY.painted);
  });
}

/** A long task is busy time, and so is the dispatch of an event. */
function claimBusy(
  intervals: EvidenceIntervals,
  { task, input }: EventTables,
  thread: number,
  range: TimeRange,
): void {
  const tasks = task.columns;
  task.eachOverlapping(range.startMs, range.endMs, (at) => {
    if (tasks.thread[at] !== thread) return;
    intervals.add(tasks.startMs[at]!, tasks.startMs[at]! + tasks.durationMs[at]!, BUSY, PRIORITY.busy);
  });
  const inputs = input.columns;
  input.eachOverlapping(range.startMs, range.endMs, (at) => {
    const fromMs = inputs.processingStartMs[at]!;
    const toMs = inputs.processingEndMs[at]!;
    if (inputs.thread[at] === thread && toMs > fromMs) intervals.add(fromMs, toMs, BUSY, PRIORITY.busy);
  });
}

/** What the watchdog saw while the thread hung: each look speaks for the time since the one before it. */
function claimHangs(
  intervals: EvidenceIntervals,
  recording: Recording,
  thread: number,
  range: TimeRange,
): void {
  let before: RowContent<'hang'> | undefined;
  for (const row of recording.events.hang.overlapping(range.startMs, range.endMs)) {
    if (row.thread !== thread) continue;
    const startMs = row.startMs + (before?.startMs === row.startMs ? before.durationMs : 0);
    const stack = row.stack === undefined ? undefined : recording.stacks.ofRow(row.stack);
    const evidence: Evidence = stack === undefined ? BUSY : { kind: 'seen', stack };
    intervals.add(
      startMs,
      row.startMs + row.durationMs,
      evidence,
      stack === undefined ? PRIORITY.busy : PRIORITY.seen,
    );
    before = row;
  }
}

function claimsOf(recording: Recording, thread: number, range: TimeRange): EvidenceIntervals {
  const intervals = new EvidenceIntervals(range);
  const { events } = recording;
  claimHandlers(intervals, events, thread, range);
  claimRendering(intervals, events, thread, range);
  for (const row of events.frame.overlapping(range.startMs, range.endMs)) {
    if (row.thread !== thread) continue;
    // A frame of a hidden page lasts until the page is shown, which keeps nobody busy.
    if (row.blockingMs !== 0) intervals.add(row.startMs, row.startMs + row.durationMs, BUSY, PRIORITY.busy);
    claimDrawing(intervals, recording, thread, row);
  }
  claimBusy(intervals, events, thread, range);
  claimHangs(intervals, recording, thread, range);
  for (const row of events.pause.overlapping(range.startMs, range.endMs)) {
    intervals.add(row.startMs, row.startMs + row.durationMs, PAUSED, PRIORITY.paused);
  }
  return intervals;
}

/**
 * Covers a range with stretches that follow each other without gap, each with the highest look any light
 * source has at it.
 */
export function evidenceIntervals(
  recording: Recording,
  thread: number,
  range: TimeRange,
): EvidenceInterval[] {
  const stretches: { startMs: number; endMs: number; evidence: Evidence }[] = [];
  claimsOf(recording, thread, range).sweep((startMs, endMs, evidence = NOTHING) => {
    const last = stretches.at(-1);
    if (last?.evidence === evidence) last.endMs = endMs;
    else stretches.push({ startMs, endMs, evidence });
  });
  return stretches;
}
