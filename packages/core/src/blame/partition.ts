import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION, ownerOf, type Owner, type RecordedFunction } from '../recording/functions';
import { callsOf, samplesOf, type Recording, type TimeRange } from '../recording/recording';
import type { Samples } from '../recording/samples';
import { layerStretches, type LayerStretch } from './layers';
import { fillUnseen, type FilledSample } from './unseen';
import { SegmentList, kindCode, type Activity, type Certainty, type Segment } from './segments';

/** Code of a stack whose kind has not been looked up. */
const UNKNOWN_KIND = 255;
/** Code of the engine's own work without a caller on the stack. */
const ALONE = 254;
const SKIPPED = kindCode('other', 'browser', 'measured');
const MOST_EXPECTED = 4_000_000;

/** Writes the segments of one partition, stretch by stretch. */
class Partitioner {
  readonly #samples: Samples;
  readonly #stretches: readonly LayerStretch[];
  readonly #kinds: Uint8Array;
  /** Whether every entry into script was watched, so that where there was none there was no script. */
  readonly #seesAllScript: boolean;
  #nextStretch = 0;

  constructor(
    private readonly recording: Recording,
    thread: number,
    range: TimeRange,
    private readonly segments: SegmentList,
  ) {
    this.#samples = samplesOf(recording, thread);
    this.#kinds = new Uint8Array(recording.stacks.length).fill(UNKNOWN_KIND);
    this.#stretches = layerStretches(recording, thread, range);
    this.#seesAllScript = recording.header.available.includes('handlers');
  }

  /** Until `endMs` an exact call was the innermost. */
  exact(endMs: number, stack: number): void {
    const kind = this.#kinds[stack]!;
    if (kind < ALONE) this.segments.push(endMs, kind, stack, UNKNOWN_FUNCTION);
    else if (kind === UNKNOWN_KIND) this.#exactFirst(endMs, stack);
    else this.#exactAlone(endMs, stack);
  }

  #exactFirst(endMs: number, stack: number): void {
    const recorded = this.#functionOf(stack);
    const { activity = 'script' } = recorded ?? {};
    const alone = activity !== 'script' && this.recording.stacks.parentOf(stack) === NO_STACK;
    this.#kinds[stack] = alone ? ALONE : kindCode(activity, ownerOf(recorded), 'measured');
    this.exact(endMs, stack);
  }

  #exactAlone(endMs: number, stack: number): void {
    const recorded = this.#functionOf(stack);
    const around = this.#around(this.segments.endMs);
    const code = kindCode(recorded?.activity ?? 'other', ownerOf(recorded), 'measured');
    this.segments.push(endMs, code, around.stack, around.entry);
  }

  #functionOf(stack: number): RecordedFunction | undefined {
    return this.recording.functions.get(this.recording.stacks.functionOf(stack));
  }

  /** Who ran at a time at which work of the engine is known exactly, but not what called for it. */
  #around(ms: number): Pick<Segment, 'stack' | 'entry'> {
    const { layer, startMs, endMs } = this.#stretchAt(ms);
    const entry = layer.kind === 'script' ? layer.entry : UNKNOWN_FUNCTION;
    const next = this.#samples.firstAtOrAfter(ms);
    const near = [next, next - 1].filter(
      (at) =>
        at >= 0 &&
        at < this.#samples.length &&
        this.#samples.hasScript(at) &&
        this.#samples.timeMs(at) >= startMs &&
        this.#samples.timeMs(at) <= endMs &&
        Math.abs(this.#samples.timeMs(at) - ms) <= 2 * this.#samples.intervalMs,
    );
    return { stack: near.length > 0 ? this.#samples.stacks[near[0]!]! : NO_STACK, entry };
  }

  #stretchAt(ms: number): LayerStretch {
    while (this.#stretches[this.#nextStretch]!.endMs <= ms) this.#nextStretch++;
    return this.#stretches[this.#nextStretch]!;
  }

  /** Until `endMs` there was no exact call: the other sources tell what they can. */
  others(endMs: number): void {
    while (this.segments.endMs < endMs) {
      const startMs = this.segments.endMs;
      const stretch = this.#stretchAt(startMs);
      this.#stretch({ ...stretch, startMs, endMs: Math.min(stretch.endMs, endMs) });
    }
  }

  /** Until `endMs` something else is told elsewhere. */
  skip(endMs: number): void {
    this.segments.push(endMs, SKIPPED, NO_STACK, UNKNOWN_FUNCTION);
  }

  #stretch(stretch: LayerStretch): void {
    const { layer } = stretch;
    if (layer.kind === 'known') this.#push(stretch.endMs, layer.activity, 'measured');
    else if (layer.kind === 'seen') this.#push(stretch.endMs, 'script', 'sampled', layer.stack);
    else if (layer.kind === 'script') this.#script(stretch, layer.entry, layer.forcedShare);
    else if (layer.kind === 'paused') this.#push(stretch.endMs, 'unexplained', 'inferred');
    else this.#sampledAmong(stretch);
  }

  /** A stretch known to be script: each moment goes to the nearest sample in it. */
  #script(range: TimeRange, entry: number, forcedShare: number): void {
    const first = this.#samples.firstAtOrAfter(range.startMs);
    const end = this.#samples.firstAtOrAfter(range.endMs);
    const filled = fillUnseen(this.recording.stacks, Array.from(this.#samples.stacks.subarray(first, end)));
    if (filled === undefined) {
      const { stack } = this.#around((range.startMs + range.endMs) / 2);
      this.#scriptPiece(range.endMs, { stack, seen: true }, entry, forcedShare);
    }
    filled?.forEach((sample, index) => {
      const at = first + index;
      const endMs =
        at + 1 < end ? (this.#samples.timeMs(at) + this.#samples.timeMs(at + 1)) / 2 : range.endMs;
      this.#scriptPiece(endMs, sample, entry, forcedShare);
    });
  }

  /**
   * Script until `endMs`. Where style and layout were forced inside, their amount is known but not their
   * place, so every piece gives up the same share.
   */
  #scriptPiece(endMs: number, sample: FilledSample, entry: number, forcedShare: number): void {
    const { stack, seen } = sample;
    const owner = this.#owner(stack, entry);
    const scriptEndMs = endMs - (endMs - this.segments.endMs) * forcedShare;
    const certainty = !seen ? 'inferred' : stack === NO_STACK ? 'measured' : 'sampled';
    this.segments.push(scriptEndMs, kindCode('script', owner, certainty), stack, entry);
    if (forcedShare > 0) {
      this.segments.push(endMs, kindCode('layout', owner, 'inferred'), stack, entry);
    }
  }

  /** A stretch no entry into script is known for: samples may have seen one all the same. */
  #sampledAmong(stretch: LayerStretch): void {
    const samples = this.#samples;
    let at = Math.max(0, samples.firstAtOrAfter(stretch.startMs) - 1);
    for (; at < samples.length; at++) {
      const speaksFor = samples.stretch(at);
      if (speaksFor.startMs >= stretch.endMs) break;
      const endMs = Math.min(speaksFor.endMs, stretch.endMs);
      if (endMs <= this.segments.endMs) continue;
      if (speaksFor.startMs > this.segments.endMs) this.#unsampled(stretch, speaksFor.startMs);
      if (samples.hasScript(at)) this.#push(endMs, 'script', 'sampled', samples.stacks[at]!);
      else if (stretch.layer.kind === 'none') this.#push(endMs, 'idle', 'sampled');
      else this.#unsampled(stretch, endMs);
    }
    this.#unsampled(stretch, stretch.endMs);
  }

  /** Until `endMs`, nothing but the layer tells what was done. */
  #unsampled(stretch: LayerStretch, endMs: number): void {
    if (stretch.layer.kind === 'drawing') this.#push(endMs, 'drawing', stretch.layer.certainty);
    else if (stretch.layer.kind === 'none' && this.#seesAllScript) this.#push(endMs, 'idle', 'inferred');
    else this.#push(endMs, 'unexplained', stretch.layer.kind === 'busy' ? 'measured' : 'inferred');
  }

  #push(endMs: number, activity: Activity, certainty: Certainty, stack = NO_STACK): void {
    const owner = activity === 'script' ? this.#owner(stack, UNKNOWN_FUNCTION) : 'browser';
    this.segments.push(endMs, kindCode(activity, owner, certainty), stack, UNKNOWN_FUNCTION);
  }

  #owner(stack: number, entry: number): Owner {
    const innermost = stack === NO_STACK ? entry : this.recording.stacks.functionOf(stack);
    if (innermost === UNKNOWN_FUNCTION) return 'own';
    return ownerOf(this.recording.functions.get(innermost));
  }
}

/**
 * Covers a range of one thread with segments that do not overlap and sum to it exactly. Where sources
 * disagree the closer look wins: exact calls, then rendering that was timed, then entries into script, then
 * rendering as the engine tells of it, then samples, then busy time as such.
 * Idle is only what a sample saw idle, or where no script was entered though all entries were watched; the rest
 * is unexplained.
 */
export function partition(recording: Recording, thread: number, range: TimeRange): SegmentList {
  const calls = callsOf(recording, thread);
  const within = calls.firstFrom(range.endMs * 1000) - calls.firstFrom(range.startMs * 1000);
  const segments = new SegmentList(range.startMs, Math.min(MOST_EXPECTED, 2 * within + 64));
  const partitioner = new Partitioner(recording, thread, range, segments);
  calls.innermost(range.startMs, range.endMs, (startMs, endMs, stack) => {
    partitioner.others(startMs);
    partitioner.exact(endMs, stack);
  });
  partitioner.others(range.endMs);
  return segments;
}

/** The segments of a thread outside its exact calls, as the other sources tell of them; those inside are left out. */
export function* outsideExactCalls(
  recording: Recording,
  thread: number,
  range: TimeRange,
): Generator<Segment> {
  const segments = new SegmentList(range.startMs);
  const partitioner = new Partitioner(recording, thread, range, segments);
  const inside: TimeRange[] = [];
  callsOf(recording, thread).outermost(range.startMs, range.endMs, (startMs, endMs) => {
    partitioner.others(startMs);
    partitioner.skip(endMs);
    inside.push({ startMs, endMs });
  });
  partitioner.others(range.endMs);
  let next = 0;
  for (const segment of segments) {
    while (next < inside.length && inside[next]!.endMs <= segment.startMs) next++;
    if (next < inside.length && inside[next]!.startMs <= segment.startMs) continue;
    yield segment;
  }
}
