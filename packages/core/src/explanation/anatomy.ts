import { isRecorderFunction } from '../sources/recorder-functions';
import type { RowContent } from '../format/rows';
import { interactionsIn, type Interaction } from '../inputs/interactions';
import type { Recording, TimeRange } from '../recording/recording';
import type { OutcomeStepName } from '../outcomes/steps';
import { handlersIn } from '../inputs/links';
import type { Sting } from '../stings/sting';
import { callCounts } from '../attribution/call-counts';
import { breakdownOf, clipSegments, type TimeBreakdown } from '../attribution/time-breakdown';
import { callBlocks, libraryStems, type CallBlock, type LibraryStem } from '../attribution/call-blocks';
import { coarsen } from '../attribution/coarsen';
import { NO_CULPRIT, culpritsOf, unseenMs, type Culprit } from './culprits';
import { inTheWay, type InTheWay } from './in-the-way';
import { missedFrames } from './missed-frames';
import { partition } from '../attribution/partition';
import { phaseScript, type LibraryWork, type PhaseScript } from './phase-script';
import type { Segment } from '../attribution/segments';

/**
 * The three phases of a delay. Event Timing and Interaction to Next Paint call them input delay, processing
 * duration and presentation delay.
 */
export const PHASES = ['waiting', 'handling', 'drawing'] as const;
/** The phases of a delay; those of an outcome may come several times, and others among them. */
export type PhaseName = (typeof PHASES)[number] | OutcomeStepName;

export interface Phase extends PhaseRange {
  readonly blame: TimeBreakdown;
  readonly culprits: readonly Culprit[];
  /** Who is to be named for its script. */
  readonly script: PhaseScript;
}

/** Twice what a wide drawing has room for. */
const DRAWN_STEPS = 2500;

/** Something that came while the thread was taken and had to wait for it. */
export interface Queued extends TimeRange {
  readonly label: string;
}

/** A sting taken apart. The phases follow each other and sum to the felt delay; so do the parts of the blame. */
export interface Anatomy {
  readonly sting: Sting;
  readonly phases: readonly Phase[];
  readonly blame: TimeBreakdown;
  /** What took the time, piece by piece, no finer than can be drawn. */
  readonly segments: readonly Segment[];
  /** Functions by the time charged to them, but for the recorder's own. */
  readonly culprits: readonly Culprit[];
  /** Time of the recorder's own script in it, and of what it brought. Milliseconds. */
  readonly recorderMs: number;
  readonly blocks: readonly CallBlock[];
  readonly stems: readonly LibraryStem[];
  readonly handlers: readonly RowContent<'handler'>[];
  /** Layout forced inside script, where its amount is known. Milliseconds. */
  readonly forcedMs: number;
  /** Where layout was forced, the dearest first. */
  readonly forced: readonly RowContent<'forced'>[];
  /** Script time for which the engine gave no stack. Milliseconds. */
  readonly unseenMs: number;
  readonly queued: readonly Queued[];
  /** What the input had to wait for, in order of time. */
  readonly inTheWay: readonly InTheWay[];
  /** When the display could have shown a new picture and got none. Milliseconds. */
  readonly missed: readonly number[];
}

function handlingRange(recording: Recording, sting: Sting): TimeRange {
  if (sting.interaction !== undefined) {
    const { processingStartMs, processingEndMs } = sting.interaction;
    return { startMs: processingStartMs, endMs: processingEndMs };
  }
  return { startMs: sting.startMs, endMs: drawingStart(recording, sting) };
}

/**
 * When the rendering steps of the last frame in a sting began; its end when none did, or when it is many tasks with
 * pictures among them, of which the last says nothing of the others.
 */
function drawingStart(recording: Recording, sting: Sting): number {
  let startMs = sting.endMs;
  if (sting.extent !== 'block') return startMs;
  for (const frame of recording.events.frame.overlapping(sting.startMs, sting.endMs)) {
    const renderMs = frame.renderStartMs;
    if (renderMs !== undefined && renderMs > sting.startMs && renderMs < sting.endMs) startMs = renderMs;
  }
  return startMs;
}

function queuedDuring(recording: Recording, sting: Sting): Queued[] {
  const others = interactionsIn(recording, sting).filter(
    (other: Interaction) =>
      other.thread === sting.thread &&
      other.measured &&
      other.startMs !== sting.interaction?.startMs &&
      other.startMs > sting.startMs &&
      other.startMs < sting.endMs,
  );
  return others.map((other) => ({
    label: `${other.label}, felt ${Math.round(other.feltMs)} ms`,
    startMs: other.startMs,
    endMs: Math.min(other.processingStartMs, sting.endMs),
  }));
}

/** A phase before it is looked into. */
export interface PhaseRange extends TimeRange {
  readonly name: PhaseName;
}

/** What the phases of a sting are, in order. */
export function phaseRangesOf(recording: Recording, sting: Sting): readonly PhaseRange[] {
  if (sting.detail?.steps !== undefined) return sting.detail.steps;
  const handling = handlingRange(recording, sting);
  return [
    { name: 'waiting', startMs: sting.startMs, endMs: handling.startMs },
    { name: 'handling', ...handling },
    { name: 'drawing', startMs: handling.endMs, endMs: sting.endMs },
  ];
}

function sumOf<Key extends string>(rows: readonly { readonly [K in Key]?: number }[], key: Key): number {
  return rows.reduce((sum, row) => sum + (row[key] ?? 0), 0);
}

/**
 * The same culprits, but what a library did by itself would be saved with the own function that asked for it last, and
 * that one is named first where this is the most.
 */
function withAsked(culprits: readonly Culprit[], works: readonly LibraryWork[]): readonly Culprit[] {
  let all = [...culprits];
  const asked = new Map<number, number>();
  for (const { askedBy, lengthMs } of works) {
    if (askedBy !== undefined) asked.set(askedBy, (asked.get(askedBy) ?? 0) + lengthMs);
  }
  for (const [functionId, askedMs] of asked) {
    const known = all.find((one) => one.functionId === functionId) ?? { ...NO_CULPRIT, functionId };
    all = all.filter((one) => one.functionId !== functionId);
    all.push({ ...known, savedMs: known.savedMs + askedMs });
  }
  const weight = ({ functionId, chargedMs }: Culprit) => chargedMs + (asked.get(functionId) ?? 0);
  return all.sort((a, b) => weight(b) - weight(a));
}

/**
 * The same culprits, the one a detector has found first: of work that changes nothing all would be saved with the function
 * that does it, and of what is moved by layout it is the layout that takes the time, and not the function that moves it.
 */
function namedFirst(culprits: readonly Culprit[], { detail, startMs, endMs }: Sting): readonly Culprit[] {
  if (detail?.culprit === undefined) return culprits;
  const { functionId, besidesMsASecond } = detail.culprit;
  const known = culprits.find((one) => one.functionId === functionId) ?? { ...NO_CULPRIT, functionId };
  const besidesMs = (besidesMsASecond * (endMs - startMs)) / 1000;
  return [
    { ...known, savedMs: known.savedMs + besidesMs },
    ...culprits.filter((one) => one.functionId !== functionId),
  ];
}

/** Takes a sting apart: where its time went, in which phase, by whom. */
export function anatomyOf(recording: Recording, sting: Sting): Anatomy {
  const segments = [...partition(recording, sting.thread, sting)];
  const drawn = coarsen(segments, sting, DRAWN_STEPS);
  const phases = phaseRangesOf(recording, sting).map(({ name, startMs, endMs }) => {
    const within = [...clipSegments(segments, startMs, endMs)];
    const range = { startMs, endMs };
    const counts = callCounts(recording, sting.thread, range);
    return {
      name,
      ...range,
      blame: breakdownOf(within),
      culprits: culpritsOf(recording, within, counts),
      script: phaseScript(recording, sting.thread, range, within, counts),
    };
  });
  const handlers = handlersIn(recording, sting.thread, sting);
  const forced = [...recording.events.forced.overlapping(sting.startMs, sting.endMs)]
    .filter(({ thread }) => thread === sting.thread)
    .sort((a, b) => b.costMs - a.costMs);
  const all = culpritsOf(recording, segments, callCounts(recording, sting.thread, sting));
  const isRecorder = ({ functionId }: Culprit) => isRecorderFunction(recording, functionId);
  const asked = phases.flatMap(({ script }) => script.library ?? []);
  return {
    sting,
    phases,
    blame: breakdownOf(segments),
    segments: drawn,
    culprits: namedFirst(
      withAsked(
        all.filter((one) => !isRecorder(one)),
        asked,
      ),
      sting,
    ),
    recorderMs: sumOf(all.filter(isRecorder), 'chargedMs'),
    blocks: callBlocks(recording, drawn),
    stems: libraryStems(recording, drawn),
    handlers,
    forcedMs: forced.length > 0 ? sumOf(forced, 'costMs') : sumOf(handlers, 'forcedMs'),
    forced,
    unseenMs: unseenMs(segments),
    queued: queuedDuring(recording, sting),
    inTheWay: inTheWay(recording, sting.thread, sting.interaction === undefined ? [] : phases),
    missed: missedFrames(recording, sting),
  };
}
