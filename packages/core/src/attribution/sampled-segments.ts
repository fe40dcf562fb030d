import { NO_STACK } from '../format/packed-samples';
import { UNKNOWN_FUNCTION, ownerOf, type Owner } from '../recording/functions';
import { memoizedPerThread } from '../recording/memoize';
import { callsOf, samplesOf, type Recording, type TimeRange } from '../recording/recording';
import type { Samples } from '../recording/samples';
import { firstIndex } from '../statistics/search';
import type { EvidenceInterval } from './evidence';
import { evidenceIntervals } from './evidence-sources';
import { SampleWeights } from './sample-weights';
import { untimedShares, type UntimedShares } from './untimed-shares';
import { SegmentList, kindCode, type Activity, type Certainty, type Segment } from './segments';

/** Kind of what lies inside exact calls, which are told elsewhere. */
export const INSIDE_EXACT = 255;

/** Takes what lies outside the exact calls, stretch by stretch, and what lies inside them, in order of time. */
interface SegmentVisitor {
  stretch(stretch: EvidenceInterval): void;
  /** Until `endMs` exact calls tell. */
  exact(endMs: number): void;
}

function walk(
  recording: Recording,
  thread: number,
  stretches: readonly EvidenceInterval[],
  visitor: SegmentVisitor,
): void {
  const { startMs, endMs } = recording.range;
  let next = 0;
  let atMs = startMs;
  const upTo = (untilMs: number) => {
    while (atMs < untilMs) {
      while (stretches[next]!.endMs <= atMs) next++;
      const { endMs: stretchEndMs, evidence } = stretches[next]!;
      const toMs = Math.min(stretchEndMs, untilMs);
      visitor.stretch({ startMs: atMs, endMs: toMs, evidence });
      atMs = toMs;
    }
  };
  callsOf(recording, thread).outermost(startMs, endMs, (callStartMs, callEndMs) => {
    upTo(callStartMs);
    visitor.exact(callEndMs);
    atMs = Math.max(atMs, callEndMs);
  });
  upTo(endMs);
}

/** Parts of an entry into script, each with the shares of it that were style and layout or a dialog at an unknown place. */
class SharesOfEntries {
  readonly #shares: readonly UntimedShares[];
  #next = 0;

  constructor(recording: Recording, thread: number) {
    this.#shares = untimedShares(recording, thread);
  }

  /** @param visit is called in order of time; ranges must be asked for in order too */
  within({ startMs, endMs }: TimeRange, visit: (part: UntimedShares) => void): void {
    let atMs = startMs;
    while (atMs < endMs) {
      while (this.#next < this.#shares.length && this.#shares[this.#next]!.endMs <= atMs) this.#next++;
      const share = this.#shares[this.#next];
      const isIn = share !== undefined && share.startMs <= atMs;
      const toMs = Math.min(endMs, (isIn ? share.endMs : share?.startMs) ?? endMs);
      visit({ startMs: atMs, endMs: toMs, forced: isIn ? share.forced : 0, dialog: isIn ? share.dialog : 0 });
      atMs = toMs;
    }
  }
}

/** Writes the segments outside the exact calls of one thread, stretch by stretch. */
class OutsideWriter implements SegmentVisitor {
  readonly #samples: Samples;
  /** Whether every entry into script was watched, so that where there was none there was no script. */
  readonly #seesAllScript: boolean;
  readonly #shares: SharesOfEntries;
  /** Number of the script stretch that is written next. */
  #nextScript = 0;

  constructor(
    private readonly recording: Recording,
    thread: number,
    private readonly stretches: readonly EvidenceInterval[],
    private readonly weights: SampleWeights,
    readonly segments: SegmentList,
  ) {
    this.#samples = samplesOf(recording, thread);
    this.#shares = new SharesOfEntries(recording, thread);
    this.#seesAllScript = recording.header.available.includes('handlers');
  }

  /** Who ran at a time at which work of the engine is known exactly, but not what called for it. */
  around(ms: number): Pick<Segment, 'stack' | 'entry'> {
    const { evidence, startMs, endMs } = this.#stretchAt(ms);
    const entry = evidence.kind === 'script' ? evidence.entry : UNKNOWN_FUNCTION;
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

  #stretchAt(ms: number): EvidenceInterval {
    const last = this.stretches.length - 1;
    const index = firstIndex(last, (at) => this.stretches[at]!.endMs > ms);
    return this.stretches[index] ?? { startMs: ms, endMs: Infinity, evidence: { kind: 'none' } };
  }

  exact(endMs: number): void {
    this.segments.push(endMs, INSIDE_EXACT, NO_STACK, UNKNOWN_FUNCTION);
  }

  stretch(stretch: EvidenceInterval): void {
    const { evidence } = stretch;
    if (evidence.kind === 'known') this.#push(stretch.endMs, evidence.activity, 'measured');
    else if (evidence.kind === 'seen') this.#push(stretch.endMs, 'script', 'sampled', evidence.stack);
    else if (evidence.kind === 'script')
      this.#shares.within(stretch, (part) => this.#script(part, evidence.entry));
    else if (evidence.kind === 'paused') this.#push(stretch.endMs, 'unexplained', 'inferred');
    else this.#sampledAmong(stretch);
  }

  /**
   * A stretch known to be script. Where style and layout were forced inside, or a dialog was open, and only their
   * amount is known, every piece gives up the same share.
   */
  #script({ endMs, forced, dialog }: UntimedShares, entry: number): void {
    const scriptShare = 1 - forced - dialog;
    const pieces = this.weights.piecesOf(this.#nextScript++);
    if (scriptShare <= 0) {
      this.#untimed(endMs, forced, dialog, NO_STACK, entry);
      return;
    }
    pieces.forEach(({ stack, seen, lengthMs }, index) => {
      const isLast = index === pieces.length - 1;
      const pieceEndMs = isLast ? endMs : Math.min(endMs, this.segments.endMs + lengthMs / scriptShare);
      const wholeMs = pieceEndMs - this.segments.endMs;
      if (wholeMs <= 0) return;
      const certainty = !seen ? 'inferred' : stack === NO_STACK ? 'measured' : 'sampled';
      const scriptEndMs = scriptShare === 1 ? pieceEndMs : this.segments.endMs + wholeMs * scriptShare;
      this.segments.push(scriptEndMs, kindCode('script', this.#owner(stack, entry), certainty), stack, entry);
      if (scriptShare < 1) this.#untimed(pieceEndMs, forced, dialog, stack, entry);
    });
  }

  /** Until `endMs` style and layout, and then a dialog, by their shares. */
  #untimed(endMs: number, forced: number, dialog: number, stack: number, entry: number): void {
    const { endMs: startMs } = this.segments;
    const layoutEndMs = dialog === 0 ? endMs : startMs + ((endMs - startMs) * forced) / (forced + dialog);
    if (forced > 0) {
      this.segments.push(
        layoutEndMs,
        kindCode('layout', this.#owner(stack, entry), 'inferred'),
        stack,
        entry,
      );
    }
    if (dialog > 0) {
      this.segments.push(endMs, kindCode('dialog', 'browser', 'inferred'), NO_STACK, UNKNOWN_FUNCTION);
    }
  }

  /**
   * A stretch no entry into script is known for: samples in it may have seen some all the same. Those outside of it
   * say nothing of it. What is at the edges goes to the nearest sample in it, but a look at script in a thread that
   * was else free stands for its own interval only.
   */
  #sampledAmong(stretch: EvidenceInterval): void {
    const samples = this.#samples;
    const isFree = stretch.evidence.kind === 'none';
    const first = samples.firstAtOrAfter(stretch.startMs);
    const isLast = stretch.endMs === this.recording.range.endMs;
    const end = isLast ? samples.length : samples.firstAtOrAfter(stretch.endMs);
    for (let at = first; at < end; at++) {
      const isAlone = isFree && samples.hasScript(at);
      const speaksFor = samples.stretch(at, isAlone ? undefined : { first, end });
      const endMs = Math.min(speaksFor.endMs, stretch.endMs);
      if (speaksFor.startMs > this.segments.endMs) this.#unsampled(stretch, speaksFor.startMs);
      if (samples.hasScript(at)) this.#push(endMs, 'script', 'sampled', samples.stacks[at]!);
      else if (isFree) this.#push(endMs, 'idle', 'sampled');
      else this.#unsampled(stretch, endMs);
    }
    this.#unsampled(stretch, stretch.endMs);
  }

  /** Until `endMs`, nothing but the evidence beside the samples tells what was done. */
  #unsampled(stretch: EvidenceInterval, endMs: number): void {
    if (stretch.evidence.kind === 'drawing') this.#push(endMs, 'drawing', stretch.evidence.certainty);
    else if (stretch.evidence.kind === 'none' && this.#seesAllScript) this.#push(endMs, 'idle', 'inferred');
    else this.#push(endMs, 'unexplained', stretch.evidence.kind === 'busy' ? 'measured' : 'inferred');
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
export interface SampledSegments {
  readonly segments: SegmentList;
  /** Who ran at a time at which work of the engine is known exactly, but not what called for it. */
  around(ms: number): Pick<Segment, 'stack' | 'entry'>;
}

/** The samples shared out among all entries into script. */
function weightsOf(
  recording: Recording,
  thread: number,
  stretches: readonly EvidenceInterval[],
): SampleWeights {
  const samples = samplesOf(recording, thread);
  const weights = new SampleWeights(samples, recording.stacks);
  if (samples.length === 0) return weights;
  const shares = new SharesOfEntries(recording, thread);
  walk(recording, thread, stretches, {
    stretch(stretch) {
      const { evidence } = stretch;
      if (evidence.kind !== 'script') return;
      shares.within(stretch, ({ startMs, endMs, forced, dialog }) =>
        weights.add(startMs, endMs, Math.max(0, 1 - forced - dialog), evidence.pool),
      );
    },
    exact: () => undefined,
  });
  weights.settle();
  return weights;
}

/** Stacks with weights in place of times, laid one after the other, each as long as it weighs. */
function weighedStacks(recording: Recording, thread: number): SampledSegments {
  const { startMs, endMs } = recording.range;
  const segments = new SegmentList(startMs);
  const { stack: stacks, value, thread: threads } = recording.events.weight.columns;
  for (let at = 0; at < stacks.length; at++) {
    if (threads[at] !== thread) continue;
    const stack = recording.stacks.ofRow(stacks[at]!)!;
    const innermost = recording.functions.get(recording.stacks.functionOf(stack));
    const code = kindCode('script', ownerOf(innermost), 'sampled');
    segments.push(segments.endMs + value[at]!, code, stack, UNKNOWN_FUNCTION);
  }
  segments.push(endMs, kindCode('unexplained', 'browser', 'inferred'), NO_STACK, UNKNOWN_FUNCTION);
  return { segments, around: () => ({ stack: NO_STACK, entry: UNKNOWN_FUNCTION }) };
}

/**
 * Covers a whole recording with what is known of a thread outside its exact calls; what lies inside them has the
 * kind INSIDE_EXACT. Worked out once for each recording, so that any two ranges of it agree.
 */
export const sampledSegments = memoizedPerThread((recording, thread): SampledSegments => {
  if (recording.events.weight.length > 0) return weighedStacks(recording, thread);
  const stretches = evidenceIntervals(recording, thread, recording.range);
  const weights = weightsOf(recording, thread, stretches);
  const segments = new SegmentList(recording.range.startMs);
  const writer = new OutsideWriter(recording, thread, stretches, weights, segments);
  walk(recording, thread, stretches, writer);
  return writer;
});
