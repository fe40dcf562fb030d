import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION, ownerOf, type Owner } from '../recording/functions';
import { oncePerThread } from '../recording/once';
import { callsOf, samplesOf, type Recording, type TimeRange } from '../recording/recording';
import type { Samples } from '../recording/samples';
import { layerStretches, type LayerStretch } from './layers';
import { fillUnseen, type FilledSample } from './unseen';
import { SegmentList, kindCode, type Activity, type Certainty, type Segment } from './segments';

/** Kind of what lies inside exact calls, which are told elsewhere. */
export const INSIDE_EXACT = 255;

/** Writes the segments outside the exact calls of one thread, stretch by stretch. */
class OutsideWriter {
  readonly #samples: Samples;
  readonly #stretches: readonly LayerStretch[];
  /** Whether every entry into script was watched, so that where there was none there was no script. */
  readonly #seesAllScript: boolean;
  /** Index of the stretch that is written next. */
  #next = 0;

  constructor(
    private readonly recording: Recording,
    thread: number,
    range: TimeRange,
    readonly segments: SegmentList,
  ) {
    this.#samples = samplesOf(recording, thread);
    this.#stretches = layerStretches(recording, thread, range);
    this.#seesAllScript = recording.header.available.includes('handlers');
  }

  /** Who ran at a time at which work of the engine is known exactly, but not what called for it. */
  around(ms: number): Pick<Segment, 'stack' | 'entry'> {
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
    let low = 0;
    let high = this.#stretches.length - 1;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.#stretches[middle]!.endMs <= ms) low = middle + 1;
      else high = middle;
    }
    return this.#stretches[low] ?? { startMs: ms, endMs: Infinity, layer: { kind: 'none' } };
  }

  /** Until `endMs` there was no exact call: the other sources tell what they can. */
  others(endMs: number): void {
    while (this.segments.endMs < endMs) {
      const startMs = this.segments.endMs;
      while (this.#stretches[this.#next]!.endMs <= startMs) this.#next++;
      const stretch = this.#stretches[this.#next]!;
      this.#stretch({ startMs, endMs: Math.min(stretch.endMs, endMs), layer: stretch.layer });
    }
  }

  /** Until `endMs` something else is told elsewhere. */
  skip(endMs: number): void {
    this.segments.push(endMs, INSIDE_EXACT, NO_STACK, UNKNOWN_FUNCTION);
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
      const { stack } = this.around((range.startMs + range.endMs) / 2);
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

/** What the sources other than exact calls tell of one thread of a whole recording. */
export type Outside = Pick<OutsideWriter, 'segments' | 'around'>;

/**
 * Covers a whole recording with what is known of a thread outside its exact calls; what lies inside them has the
 * kind INSIDE_EXACT. Worked out once for each recording, so that any two ranges of it agree.
 */
export const outsideExactCalls = oncePerThread((recording, thread): Outside => {
  const { startMs, endMs } = recording.range;
  const writer = new OutsideWriter(recording, thread, recording.range, new SegmentList(startMs));
  callsOf(recording, thread).outermost(startMs, endMs, (callStartMs, callEndMs) => {
    writer.others(callStartMs);
    writer.skip(callEndMs);
  });
  writer.others(endMs);
  return writer;
});
