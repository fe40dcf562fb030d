import type { RowContent } from '../format/rows';
import { UNKNOWN_FUNCTION, type EngineActivity } from '../recording/functions';
import type { Recording, TimeRange } from '../recording/recording';

/** What the light sources say of a stretch of time, without a look at the samples. */
export type Layer =
  | { readonly kind: 'script'; readonly entry: number; readonly forcedShare: number }
  | { readonly kind: 'known'; readonly activity: EngineActivity }
  | { readonly kind: 'drawing'; readonly certainty: 'measured' | 'inferred' }
  /** The watchdog saw this stack. */
  | { readonly kind: 'seen'; readonly stack: number }
  | { readonly kind: 'busy' }
  | { readonly kind: 'paused' }
  | { readonly kind: 'none' };

const NOTHING: Layer = { kind: 'none' };

/** A probe that took no longer found style and layout done already. */
const LITTLE_LEFT_MS = 1;

export interface LayerStretch extends TimeRange {
  readonly layer: Layer;
}

interface Claim extends TimeRange {
  readonly layer: Layer;
  /** The claim with the highest closeness wins where several overlap. */
  readonly closeness: number;
}

const CLOSENESS = {
  paused: 7,
  rendered: 6,
  script: 5,
  entered: 4,
  painted: 3,
  drawing: 2,
  seen: 1.5,
  busy: 1,
} as const;

function clip(claim: Claim, range: TimeRange): Claim | undefined {
  const startMs = Math.max(claim.startMs, range.startMs);
  const endMs = Math.min(claim.endMs, range.endMs);
  return endMs > startMs ? { ...claim, startMs, endMs } : undefined;
}

function handlerClaim(handler: RowContent<'handler'>): Claim {
  const forcedShare = handler.durationMs > 0 ? Math.min(1, (handler.forcedMs ?? 0) / handler.durationMs) : 0;
  return {
    startMs: handler.startMs,
    endMs: handler.startMs + handler.durationMs,
    layer: { kind: 'script', entry: handler.function ?? UNKNOWN_FUNCTION, forcedShare },
    closeness: handler.function === undefined ? CLOSENESS.entered : CLOSENESS.script,
  };
}

/**
 * Rendering as the engine tells of it. Style and layout may be due before the frame callbacks, as when the mouse
 * rests on something that may have moved: then the render probe finds nothing left to do, and what lies between the
 * last script and the callbacks is concluded to be drawing too.
 */
function* drawingClaims(recording: Recording, thread: number, row: RowContent<'frame'>): Generator<Claim> {
  const { startMs, endMs } = extent(row);
  const { styleStartMs, renderStartMs = styleStartMs } = row;
  if (styleStartMs === undefined || renderStartMs === undefined) return;
  const { drawing: closeness } = CLOSENESS;
  yield { startMs: styleStartMs, endMs, layer: { kind: 'drawing', certainty: 'measured' }, closeness };
  const probes = [...recording.events.render.overlapping(renderStartMs, endMs)];
  const probe = probes.find((render) => render.thread === thread && render.startMs >= renderStartMs);
  if (probe === undefined || probe.styleMs + probe.layoutMs > LITTLE_LEFT_MS) return;
  let scriptEndMs = renderStartMs;
  for (const handler of recording.events.handler.overlapping(startMs, renderStartMs)) {
    const handledMs = handler.startMs + handler.durationMs;
    scriptEndMs = scriptEndMs === renderStartMs ? handledMs : Math.max(scriptEndMs, handledMs);
  }
  yield {
    startMs: scriptEndMs,
    endMs: probe.startMs,
    layer: { kind: 'drawing', certainty: 'inferred' },
    closeness,
  };
}

/** Style and layout come inside a frame callback, paint after it, when other script may run first. */
function* renderClaims(row: RowContent<'render'>): Generator<Claim> {
  let startMs = row.startMs;
  const parts = [
    ['style', row.styleMs, CLOSENESS.rendered],
    ['layout', row.layoutMs, CLOSENESS.rendered],
    ['paint', row.paintMs, CLOSENESS.painted],
  ] as const;
  for (const [activity, lengthMs, closeness] of parts) {
    yield { startMs, endMs: startMs + lengthMs, layer: { kind: 'known', activity }, closeness };
    startMs += lengthMs;
  }
}

/** What the watchdog saw while the thread hung: each look speaks for the time since the one before it. */
function* hangClaims(recording: Recording, thread: number, range: TimeRange): Generator<Claim> {
  let before: RowContent<'hang'> | undefined;
  for (const row of recording.events.hang.overlapping(range.startMs, range.endMs)) {
    if (row.thread !== thread) continue;
    const startMs = row.startMs + (before?.startMs === row.startMs ? before.durationMs : 0);
    const stack = row.stack === undefined ? undefined : recording.stacks.ofRow(row.stack);
    const layer: Layer = stack === undefined ? { kind: 'busy' } : { kind: 'seen', stack };
    const closeness = stack === undefined ? CLOSENESS.busy : CLOSENESS.seen;
    yield { startMs, endMs: row.startMs + row.durationMs, layer, closeness };
    before = row;
  }
}

function* claimsOf(recording: Recording, thread: number, range: TimeRange): Generator<Claim> {
  const { handler, frame, render, task, input, pause } = recording.events;
  const { startMs, endMs } = range;
  for (const row of handler.overlapping(startMs, endMs)) {
    if (row.thread === thread) yield handlerClaim(row);
  }
  for (const row of render.overlapping(startMs, endMs)) {
    if (row.thread === thread) yield* renderClaims(row);
  }
  for (const row of frame.overlapping(startMs, endMs)) {
    if (row.thread !== thread) continue;
    // A frame of a hidden page lasts until the page is shown, which keeps nobody busy.
    if (row.blockingMs !== 0) yield { ...extent(row), layer: { kind: 'busy' }, closeness: CLOSENESS.busy };
    yield* drawingClaims(recording, thread, row);
  }
  for (const row of task.overlapping(startMs, endMs)) {
    if (row.thread === thread) yield { ...extent(row), layer: { kind: 'busy' }, closeness: CLOSENESS.busy };
  }
  for (const row of input.overlapping(startMs, endMs)) {
    const { processingStartMs, processingEndMs } = row;
    if (row.thread !== thread || processingStartMs === undefined || processingEndMs === undefined) continue;
    const dispatch = { startMs: processingStartMs, endMs: processingEndMs };
    yield { ...dispatch, layer: { kind: 'busy' }, closeness: CLOSENESS.busy };
  }
  yield* hangClaims(recording, thread, range);
  for (const row of pause.overlapping(startMs, endMs)) {
    yield { ...extent(row), layer: { kind: 'paused' }, closeness: CLOSENESS.paused };
  }
}

function extent({ startMs, durationMs }: { startMs: number; durationMs: number }): TimeRange {
  return { startMs, endMs: startMs + durationMs };
}

/**
 * Covers a range with stretches that follow each other without gap, each with the closest look any light
 * source has at it.
 */
export function layerStretches(recording: Recording, thread: number, range: TimeRange): LayerStretch[] {
  const claims = [...claimsOf(recording, thread, range)]
    .map((claim) => clip(claim, range))
    .filter((claim): claim is Claim => claim !== undefined)
    .sort((a, b) => a.startMs - b.startMs);
  const edges = new Set([range.startMs, range.endMs]);
  for (const claim of claims) edges.add(claim.startMs).add(claim.endMs);
  const times = [...edges].sort((a, b) => a - b);

  const stretches: { startMs: number; endMs: number; layer: Layer }[] = [];
  let open: Claim[] = [];
  let next = 0;
  for (let index = 0; index + 1 < times.length; index++) {
    const startMs = times[index]!;
    open = open.filter((claim) => claim.endMs > startMs);
    while (next < claims.length && claims[next]!.startMs <= startMs) open.push(claims[next++]!);
    const best = open.reduce<Claim | undefined>(
      (a, b) => (a === undefined || b.closeness > a.closeness ? b : a),
      undefined,
    );
    const endMs = times[index + 1]!;
    const layer = best?.layer ?? NOTHING;
    const last = stretches.at(-1);
    if (last?.layer === layer) last.endMs = endMs;
    else stretches.push({ startMs, endMs, layer });
  }
  return stretches;
}
