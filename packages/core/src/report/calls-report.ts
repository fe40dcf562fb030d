import { callsOfRow, functionTable, type FunctionRow } from '../calls/function-table';
import { exactCost, type ExactCost } from '../calls/exact-cost';
import { fileCosts } from '../calls/line-costs';
import type { Owner } from '../recording/functions';
import type { Lens } from '../calls/lens';
import { occurrencesOf } from '../calls/occurrences';
import type { Recording } from '../recording/recording';
import { REPORT_VERSION, reportOf, type ExplainReport } from './explain-report';
import { reportedFunction, type ReportedFunction } from './source-location';
import { roundMs } from '../format/microseconds';

/** What `nettle-patch calls --json` writes. Times are milliseconds, or what `recording.unit` says. */
export interface CallsReport {
  readonly version: typeof REPORT_VERSION;
  readonly recording: ExplainReport['recording'];
  readonly lens: Lens;
  readonly functions: readonly (ReportedFunction & {
    readonly selfMs: number;
    readonly totalMs: number;
    /** Calls, exact or counted; 0 where only samples tell. */
    readonly count: number;
    /** Those of them whose times are known. */
    readonly timedCount: number;
    readonly shortestMs: number | null;
    readonly medianMs: number | null;
    readonly longestMs: number | null;
    readonly callsPerSecond: number;
    /** One standard error of `selfMs` where it was sampled, else 0. */
    readonly selfErrorMs: number;
  })[];
  /** Where it was asked for: what lines took, those with the most time of their own first. */
  readonly lines?: readonly ReportedLine[];
  /** In fine mode: what the same would cost with exact calls. */
  readonly exactCost?: ExactCost;
}

/** What one line took. Times are milliseconds. */
export interface ReportedLine {
  readonly file: string;
  /** From 1. */
  readonly line: number;
  readonly owner: Owner;
  readonly selfMs: number;
  /** The same with the time in calls made from it. */
  readonly totalMs: number;
  /** Samples that saw the thread on it; 0 where the time is that of functions that begin there. */
  readonly samples: number;
  /** One standard error of `selfMs`, where it was sampled. */
  readonly selfErrorMs: number;
  /** Calls of the functions that begin there. */
  readonly count: number;
}

/**
 * What lines took, those with the most time of their own first.
 * @param rows the functions under the lens, where they were worked out already
 */
export function linesReport(recording: Recording, lens: Lens, rows?: readonly FunctionRow[]): ReportedLine[] {
  return fileCosts(recording, lens, rows)
    .flatMap(({ file, owner, lines }) =>
      lines.map(({ line, selfMs, totalMs, samples, selfErrorMs, count }) => ({
        file,
        line,
        owner,
        selfMs: roundMs(selfMs),
        totalMs: roundMs(totalMs),
        samples,
        selfErrorMs: roundMs(selfErrorMs),
        count,
      })),
    )
    .filter(({ totalMs, count }) => totalMs > 0 || count > 0)
    .sort((a, b) => b.selfMs - a.selfMs || b.totalMs - a.totalMs);
}

/** Functions whose median is worked out: all, up to a number that keeps the report quick. */
const MAX_MEDIANS = 50;

/** @param withLines whether lines are asked for */
export function callsReport(recording: Recording, lens: Lens, withLines = false): CallsReport {
  const rows = functionTable(recording, lens);
  const functions = rows.map((row, index) => {
    const { functionId, selfMs, totalMs, count, shortestMs, longestMs, callsPerSecond, selfErrorMs } = row;
    const calls = callsOfRow(row);
    const isCounted = count > 0 && index < MAX_MEDIANS;
    const statistics = isCounted ? occurrencesOf(recording, lens, functionId).statistics : undefined;
    return {
      ...reportedFunction(recording, functionId),
      selfMs: roundMs(selfMs),
      totalMs: roundMs(totalMs),
      count: calls,
      timedCount: count,
      shortestMs: count > 0 ? roundMs(shortestMs) : null,
      medianMs: statistics === undefined ? null : roundMs(statistics.medianMs),
      longestMs: count > 0 ? roundMs(longestMs) : null,
      callsPerSecond: roundMs(callsPerSecond),
      selfErrorMs: roundMs(selfErrorMs),
    };
  });
  const lines = withLines ? { lines: linesReport(recording, lens, rows) } : {};
  const cost = exactCost(recording);
  return {
    version: REPORT_VERSION,
    recording: reportOf(recording),
    lens,
    functions,
    ...lines,
    ...(cost === undefined ? {} : { exactCost: cost }),
  };
}
