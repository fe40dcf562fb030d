import type { RowContent } from '../format/rows';
import { UNKNOWN_FUNCTION, type EngineActivity } from '../recording/functions';
import type { Recording, TimeRange } from '../recording/recording';

/** What the light sources say of a stretch of time, without a look at the samples. */
export type Layer =
  | { readonly kind: 'script'; readonly entry: number; readonly forcedShare: number }
  | { readonly kind: 'known'; readonly activity: EngineActivity }
  | { readonly kind: 'drawing' }
  | { readonly kind: 'busy' }
  | { readonly kind: 'paused' }
  | { readonly kind: 'none' };

export interface LayerStretch extends TimeRange {
  readonly layer: Layer;
}

interface Claim extends TimeRange {
  readonly layer: Layer;
  /** The claim with the highest closeness wins where several overlap. */
  readonly closeness: number;
}

const CLOSENESS = { paused: 7, rendered: 6, script: 5, entered: 4, painted: 3, drawing: 2, busy: 1 } as const;

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
    if (row.styleStartMs === undefined) continue;
    const drawing = { ...extent(row), startMs: row.styleStartMs };
    yield { ...drawing, layer: { kind: 'drawing' }, closeness: CLOSENESS.drawing };
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

  const stretches: LayerStretch[] = [];
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
    stretches.push({ startMs, endMs: times[index + 1]!, layer: best?.layer ?? { kind: 'none' } });
  }
  return stretches;
}
