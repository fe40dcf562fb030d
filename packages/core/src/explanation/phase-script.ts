import { NO_STACK } from '../format/packed-samples';
import { isOwnFunction, ownerOf } from '../recording/functions';
import type { Recording, TimeRange } from '../recording/recording';
import { mostOf } from '../statistics/most';
import { libraryName } from '../sources/library-name';
import { functionsOf, type Culprit } from './culprits';
import { scheduleOf } from '../inputs/links';
import { handlersIn } from '../inputs/links';
import type { Segment } from '../attribution/segments';
import { innermostFunction, innermostOwn } from '../attribution/stack-facts';

/** Work of a library that no own function was seen calling. */
export interface LibraryWork {
  /** Name of the library. */
  readonly name: string;
  readonly lengthMs: number;
  /** Elements and texts that were added or removed meanwhile, if enough to take the time, and where most of them. */
  readonly nodes: number;
  readonly target: string | undefined;
  /** The own function that ran last before it, or that scheduled it. */
  readonly askedBy: number | undefined;
}

/** The script of one phase, by who is to be named for it. */
export interface PhaseScript {
  /** All script in it. Milliseconds. */
  readonly lengthMs: number;
  /** The own function with the most time, its own and in what it called; the outermost of those that are equal. */
  readonly lead: Culprit | undefined;
  /** The library that the lead called most, by the time in it: its name and that time. */
  readonly below: LibraryBelow | undefined;
  /** What a library did by itself, where that is more than what own code did. */
  readonly library: LibraryWork | undefined;
  /** The same where it is not. */
  readonly beside: LibraryWork | undefined;
  /** The library's function that was entered longest without anything being seen of what it ran. */
  readonly entered: UnseenEntry | undefined;
  /** Style and layout that were forced with the lead on the stack. Milliseconds. */
  readonly leadForcedMs: number;
}

/** A library that own code called. */
export interface LibraryBelow {
  readonly name: string;
  /** In it, called by that code directly or through other libraries. Milliseconds. */
  readonly lengthMs: number;
}

/** An entry into a library of which nothing else is known: it may have called own code in it. */
export interface UnseenEntry {
  readonly functionId: number;
  readonly library: string;
  readonly lengthMs: number;
}

/** Of functions whose times differ by less than this share, the outer one is named. */
const EQUAL_SHARE = 0.02;
/** What a library changed is counted before the next picture, which comes this soon. */
const NEXT_PICTURE_MS = 100;
/** To place a node takes a library less than this: fewer nodes are not what took the time. */
const MAX_MS_A_NODE = 2;

/** @param segments what the phase is made of, in order of time */
export function phaseScript(
  recording: Recording,
  thread: number,
  range: TimeRange,
  segments: readonly Segment[],
  counts: ReadonlyMap<number, number>,
): PhaseScript {
  const lengthMs = sumOf(segments.filter(({ activity }) => activity === 'script'));
  const own = functionsOf(recording, segments, counts).filter(({ functionId }) =>
    isOwnFunction(recording, functionId),
  );
  const lead = own.reduce<Culprit | undefined>(
    (best, one) => (best === undefined || one.totalMs > best.totalMs * (1 + EQUAL_SHARE) ? one : best),
    undefined,
  );
  const leadMs = lead?.totalMs ?? 0;
  const work = libraryWork(recording, thread, range, segments);
  const entered = unseenEntry(recording, segments);
  const leads = work !== undefined && work.lengthMs > leadMs;
  const forced = functionsOf(
    recording,
    segments.filter(({ activity }) => FORCED.has(activity)),
  );
  return {
    lengthMs,
    lead,
    below: lead && libraryBelow(recording, lead.functionId, segments),
    library: leads ? work : undefined,
    beside: leads ? undefined : work,
    entered: entered !== undefined && entered.lengthMs > leadMs ? entered : undefined,
    leadForcedMs: forced.find(({ functionId }) => functionId === lead?.functionId)?.totalMs ?? 0,
  };
}

/** The work of the engine that script can force. */
const FORCED: ReadonlySet<Segment['activity']> = new Set(['style', 'layout', 'drawing']);

function isLibrarys(recording: Recording, functionId: number): boolean {
  return ownerOf(recording.functions.get(functionId)) === 'library';
}

function unseenEntry(recording: Recording, segments: readonly Segment[]): UnseenEntry | undefined {
  const byFunction = new Map<number, number>();
  for (const segment of segments) {
    const entered = segment.stack === NO_STACK ? innermostFunction(recording, segment) : undefined;
    if (entered === undefined || segment.activity !== 'script' || !isLibrarys(recording, entered)) continue;
    byFunction.set(entered, (byFunction.get(entered) ?? 0) + segment.endMs - segment.startMs);
  }
  const most = mostOf(byFunction);
  if (most === undefined) return undefined;
  const [functionId, lengthMs] = most;
  return { functionId, library: nameOf(recording, functionId), lengthMs };
}

function nameOf(recording: Recording, functionId: number): string {
  const recorded = recording.functions.get(functionId);
  return libraryName(recorded, recording.sources.get(recorded?.source ?? NaN));
}

function libraryBelow(
  recording: Recording,
  caller: number,
  segments: readonly Segment[],
): LibraryBelow | undefined {
  const byName = new Map<string, number>();
  for (const segment of segments) {
    const innermost = innermostFunction(recording, segment);
    if (innermost === undefined || innermostOwn(recording, segment) !== caller) continue;
    if (!isLibrarys(recording, innermost)) continue;
    const name = nameOf(recording, innermost);
    byName.set(name, (byName.get(name) ?? 0) + segment.endMs - segment.startMs);
  }
  const most = mostOf(byName);
  return most && { name: most[0], lengthMs: most[1] };
}

function sumOf(segments: readonly Segment[]): number {
  return segments.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
}

function libraryWork(
  recording: Recording,
  thread: number,
  range: TimeRange,
  segments: readonly Segment[],
): LibraryWork | undefined {
  const byName = new Map<string, number>();
  let lastOwn: number | undefined;
  let askedBy: number | undefined;
  let lengthMs = 0;
  for (const segment of segments) {
    const own = innermostOwn(recording, segment);
    if (own !== undefined) lastOwn = own;
    const innermost = innermostFunction(recording, segment);
    if (innermost === undefined || own !== undefined || segment.activity !== 'script') continue;
    if (segment.stack === NO_STACK || !isLibrarys(recording, innermost)) continue;
    if (lengthMs === 0) askedBy = lastOwn;
    const ms = segment.endMs - segment.startMs;
    lengthMs += ms;
    const name = nameOf(recording, innermost);
    byName.set(name, (byName.get(name) ?? 0) + ms);
  }
  const name = mostOf(byName)?.[0];
  if (name === undefined) return undefined;
  askedBy ??= scheduler(recording, thread, range);
  const changes = changesIn(recording, thread, range);
  const isEnough = changes.nodes * MAX_MS_A_NODE >= lengthMs;
  return { name, lengthMs, ...(isEnough ? changes : { nodes: 0, target: undefined }), askedBy };
}

/** The own function that asked for what was entered in a range, where it is known. */
function scheduler(recording: Recording, thread: number, range: TimeRange): number | undefined {
  const [longest] = handlersIn(recording, thread, range).sort((a, b) => b.durationMs - a.durationMs);
  const asked = longest === undefined ? undefined : scheduleOf(recording, longest)?.function;
  return asked !== undefined && isOwnFunction(recording, asked) ? asked : undefined;
}

function changesIn(
  recording: Recording,
  thread: number,
  { startMs, endMs }: TimeRange,
): Pick<LibraryWork, 'nodes' | 'target'> {
  let nodes = 0;
  let most = 0;
  let target: string | undefined;
  const { redraw } = recording.events;
  const { startMs: starts, thread: threads, nodes: changed, more } = redraw.columns;
  for (
    let at = redraw.firstFrom(startMs);
    at < redraw.length && starts[at]! <= endMs + NEXT_PICTURE_MS;
    at++
  ) {
    if (threads[at] !== thread) continue;
    const count = changed[at]! + Math.max(0, more[at]!);
    nodes += count;
    if (count <= most) continue;
    most = count;
    target = redraw.value('target', at);
  }
  return { nodes, target };
}
