import type { RowContent } from '../format/rows';
import { UNKNOWN_FUNCTION } from '../recording/functions';
import type { Recording, TimeRange } from '../recording/recording';

/** What the light sources say of a stretch of time, without a look at the samples. */
export type Layer =
  | { readonly kind: 'script'; readonly entry: number; readonly forcedShare: number }
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

const CLOSENESS = { paused: 5, script: 4, drawing: 3, busy: 1 } as const;

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
    closeness: CLOSENESS.script,
  };
}

function* claimsOf(recording: Recording, thread: number, range: TimeRange): Generator<Claim> {
  const until = (row: { startMs: number }) => row.startMs < range.endMs;
  for (const handler of takeWhile(recording.events.handler.rows(), until)) {
    if (handler.thread === thread) yield handlerClaim(handler);
  }
  for (const frame of takeWhile(recording.events.frame.rows(), until)) {
    if (frame.thread !== thread) continue;
    const endMs = frame.startMs + frame.durationMs;
    yield { startMs: frame.startMs, endMs, layer: { kind: 'busy' }, closeness: CLOSENESS.busy };
    if (frame.styleStartMs !== undefined) {
      yield { startMs: frame.styleStartMs, endMs, layer: { kind: 'drawing' }, closeness: CLOSENESS.drawing };
    }
  }
  for (const task of takeWhile(recording.events.task.rows(), until)) {
    if (task.thread !== thread) continue;
    const endMs = task.startMs + task.durationMs;
    yield { startMs: task.startMs, endMs, layer: { kind: 'busy' }, closeness: CLOSENESS.busy };
  }
  for (const pause of takeWhile(recording.events.pause.rows(), until)) {
    const endMs = pause.startMs + pause.durationMs;
    yield { startMs: pause.startMs, endMs, layer: { kind: 'paused' }, closeness: CLOSENESS.paused };
  }
}

function* takeWhile<T>(items: Iterable<T>, holds: (item: T) => boolean): Generator<T> {
  for (const item of items) {
    if (!holds(item)) return;
    yield item;
  }
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
