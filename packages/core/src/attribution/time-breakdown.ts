import { ACTIVITIES, SegmentList, kindOfCode, type Activity, type Segment } from './segments';

/** Milliseconds of a range by kind of work; the parts sum to the range. */
export interface TimeBreakdown {
  readonly totalMs: number;
  readonly scriptOwnMs: number;
  readonly scriptLibraryMs: number;
  readonly styleMs: number;
  readonly layoutMs: number;
  readonly paintMs: number;
  readonly drawingMs: number;
  readonly collectionMs: number;
  readonly otherMs: number;
  /** A dialog was open: a person's time. */
  readonly dialogMs: number;
  readonly unexplainedMs: number;
  readonly idleMs: number;
}

export type BreakdownPart = Exclude<keyof TimeBreakdown, 'totalMs'>;

/** The part of the blame a segment counts towards. */
export function breakdownPart(segment: Pick<Segment, 'activity' | 'owner'>): BreakdownPart {
  if (segment.activity !== 'script') return `${segment.activity}Ms`;
  return segment.owner === 'own' ? 'scriptOwnMs' : 'scriptLibraryMs';
}

/** All parts, in the order they are listed. */
export const BREAKDOWN_PARTS: readonly BreakdownPart[] = ACTIVITIES.flatMap(
  (activity: Activity): BreakdownPart[] =>
    activity === 'script' ? ['scriptOwnMs', 'scriptLibraryMs'] : [`${activity}Ms`],
);

type Sums = { -readonly [Part in keyof TimeBreakdown]: number };

const NOTHING: TimeBreakdown = {
  totalMs: 0,
  ...(Object.fromEntries(BREAKDOWN_PARTS.map((part) => [part, 0])) as Record<BreakdownPart, number>),
};

function noBlame(): Sums {
  return { ...NOTHING };
}

/** Adds up segments by kind of work. */
export function breakdownOf(segments: Iterable<Segment>): TimeBreakdown {
  if (segments instanceof SegmentList) return breakdownOfSums(segments.sums());
  const blame = noBlame();
  for (const segment of segments) add(blame, breakdownPart(segment), segment.endMs - segment.startMs);
  return blame;
}

/** The blame of milliseconds by kind code. */
export function breakdownOfSums(sums: Float64Array): TimeBreakdown {
  const blame = noBlame();
  sums.forEach((lengthMs, code) => {
    if (lengthMs !== 0) add(blame, breakdownPart(kindOfCode(code)), lengthMs);
  });
  return blame;
}

function add(blame: Sums, part: BreakdownPart, lengthMs: number): void {
  blame[part] += lengthMs;
  blame.totalMs += lengthMs;
}

/** The part of segments that lies within a range. */
export function* clipSegments(
  segments: Iterable<Segment>,
  startMs: number,
  endMs: number,
): Generator<Segment> {
  for (const segment of segments) {
    const from = Math.max(segment.startMs, startMs);
    const to = Math.min(segment.endMs, endMs);
    if (to > from) yield { ...segment, startMs: from, endMs: to };
  }
}
