import type { Culprit } from '../explanation/culprits';
import { MAIN_THREAD, type Recording, type TimeRange } from '../recording/recording';
import type { Thresholds } from '../format/thresholds';
import type { ElementRedraws } from './element-redraws';
import { isRecorderFunction } from '../sources/recorder-functions';
import { recorderMs } from '../stings/recorder-time';
import { rangeSums } from './range-sums';

/** What went on in a range in which nothing should have changed. */
export interface QuietSums extends TimeRange {
  /** What the app calls it; absent of a range that a person has marked. */
  readonly name?: string;
  readonly redraws: number;
  /** Those of them that changed something one could see. */
  readonly visible: number;
  /** Time of script, own and of libraries, without that of the recorder. */
  readonly scriptMs: number;
  /** Time of style, layout and paint. */
  readonly renderingMs: number;
  readonly requests: number;
  /** By element, those with the most redraws first. */
  readonly elements: readonly ElementRedraws[];
  /** Functions by the time charged to them. */
  readonly functions: readonly Culprit[];
}

/** Measures of the app that say so mark a quiet range: "quiet", "quiet: sailing list". */
const MEASURE = /^quiet(?:\s*:\s*(.*))?$/i;

/** A range in which nothing should change. */
export interface QuietRange extends TimeRange {
  readonly name?: string;
}

/** Ranges in which nothing should change: those marked in the tool, and the app's own measures named "quiet". */
export function quietRanges({ header, events }: Recording): QuietRange[] {
  const measured = [...events.span.rows()].flatMap((span): QuietRange[] => {
    const match = span.type === 'measure' ? MEASURE.exec(span.name) : null;
    if (match === null) return [];
    const range = { startMs: span.startMs, endMs: span.startMs + span.durationMs };
    return [match[1] === undefined || match[1] === '' ? range : { ...range, name: match[1] }];
  });
  return [...(header.quiet ?? []), ...measured].sort((a, b) => a.startMs - b.startMs);
}

/** What went on in a quiet range of the main thread. */
export function quietSums(
  recording: Recording,
  range: QuietRange,
  thresholds: Pick<Thresholds, 'responseMs'>,
): QuietSums {
  const { startMs, endMs, kinds, redraws, requests, functions } = rangeSums(
    recording,
    range,
    thresholds,
    MAIN_THREAD,
  );
  const sumOf = (key: 'count' | 'visible') => redraws.reduce((sum, one) => sum + one[key], 0);
  return {
    startMs,
    endMs,
    ...(range.name === undefined ? {} : { name: range.name }),
    redraws: sumOf('count'),
    visible: sumOf('visible'),
    scriptMs: Math.max(
      0,
      kinds.scriptOwnMs + kinds.scriptLibraryMs - recorderMs(recording, MAIN_THREAD, range),
    ),
    renderingMs: kinds.styleMs + kinds.layoutMs + kinds.paintMs + kinds.drawingMs,
    requests: requests.count,
    elements: redraws,
    functions: functions.filter(({ functionId }) => !isRecorderFunction(recording, functionId)),
  };
}
