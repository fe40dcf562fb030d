import { BREAKDOWN_PARTS, type BreakdownPart } from '../attribution/time-breakdown';
import { roundMs } from '../format/microseconds';
import type { Thresholds } from '../format/thresholds';
import { rangeSums, type RangeSums } from '../overview/range-sums';
import { MAIN_THREAD, type Recording, type TimeRange } from '../recording/recording';
import { reportedFunction, type ReportedFunction } from './source-location';

/** The sum of a range as reports tell of it. Times are milliseconds. */
export interface ReportedSums {
  readonly fromMs: number;
  readonly toMs: number;
  readonly thread: number;
  /** Sums to `toMs` less `fromMs`. */
  readonly kinds: Readonly<Record<BreakdownPart, number>>;
  readonly functions: readonly (ReportedFunction & {
    /** Its own time, and that of libraries it called. */
    readonly chargedMs: number;
    readonly hotLines: readonly { readonly line: number; readonly chargedMs: number }[];
  })[];
  readonly inputs: {
    readonly count: number;
    readonly over: number;
    readonly budgetMs: number;
    readonly worst: { readonly label: string; readonly startMs: number; readonly feltMs: number } | null;
  };
  readonly frames: RangeSums['frames'];
  readonly requests: {
    readonly count: number;
    readonly failed: number;
    readonly bytes: number;
    readonly longest: { readonly url: string; readonly durationMs: number } | null;
  };
  readonly redraws: readonly {
    readonly target: string | null;
    readonly count: number;
    readonly inView: number;
    readonly unchanged: number;
    readonly visible: number;
    readonly writer: ReportedFunction | null;
    readonly written: number;
  }[];
  readonly memory: {
    readonly firstBytes: number | null;
    readonly lastBytes: number | null;
    readonly collections: number;
    readonly collectedMs: number;
  };
}

const MAX_FUNCTIONS = 20;
const MAX_HOT_LINES = 3;

/** What goes on in a range of a thread, summed. */
export function sumsReport(
  recording: Recording,
  range: TimeRange,
  thresholds: Thresholds,
  thread: number = MAIN_THREAD,
): ReportedSums {
  const sums = rangeSums(recording, range, thresholds, thread);
  const { worst, ...inputs } = sums.inputs;
  const { longest, ...requests } = sums.requests;
  const { firstBytes = null, lastBytes = null, collections, collectedMs } = sums.memory;
  return {
    fromMs: roundMs(sums.startMs),
    toMs: roundMs(sums.endMs),
    thread,
    kinds: Object.fromEntries(BREAKDOWN_PARTS.map((part) => [part, roundMs(sums.kinds[part])])) as Record<
      BreakdownPart,
      number
    >,
    functions: sums.functions.slice(0, MAX_FUNCTIONS).map(({ functionId, chargedMs, hotLines }) => ({
      ...reportedFunction(recording, functionId),
      chargedMs: roundMs(chargedMs),
      hotLines: hotLines
        .slice(0, MAX_HOT_LINES)
        .map((hot) => ({ line: hot.line, chargedMs: roundMs(hot.chargedMs) })),
    })),
    inputs: {
      ...inputs,
      worst:
        worst === undefined
          ? null
          : { label: worst.label, startMs: roundMs(worst.startMs), feltMs: roundMs(worst.feltMs) },
    },
    frames: { ...sums.frames, longestMs: roundMs(sums.frames.longestMs) },
    requests: { ...requests, longest: longest ?? null },
    redraws: sums.redraws.map(
      ({ target = null, count, inView, unchanged, visible, functionId, written }) => ({
        target,
        count,
        inView,
        unchanged,
        visible,
        writer: functionId === undefined ? null : reportedFunction(recording, functionId),
        written,
      }),
    ),
    memory: { firstBytes, lastBytes, collections, collectedMs: roundMs(collectedMs) },
  };
}
