import { functionTable } from '../calls/function-table';
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
    /** Exact calls; 0 where only samples tell. */
    readonly count: number;
    readonly shortestMs: number | null;
    readonly medianMs: number | null;
    readonly longestMs: number | null;
    readonly callsPerSecond: number;
    /** One standard error of `selfMs` where it was sampled, else 0. */
    readonly selfErrorMs: number;
  })[];
}

/** Functions whose median is worked out: all, up to a number that keeps the report quick. */
const MAX_MEDIANS = 50;

export function callsReport(recording: Recording, lens: Lens): CallsReport {
  const functions = functionTable(recording, lens).map((row, index) => {
    const { functionId, selfMs, totalMs, count, shortestMs, longestMs, callsPerSecond, selfErrorMs } = row;
    const isCounted = count > 0 && index < MAX_MEDIANS;
    const statistics = isCounted ? occurrencesOf(recording, lens, functionId).statistics : undefined;
    return {
      ...reportedFunction(recording, functionId),
      selfMs: roundMs(selfMs),
      totalMs: roundMs(totalMs),
      count,
      shortestMs: count > 0 ? roundMs(shortestMs) : null,
      medianMs: statistics === undefined ? null : roundMs(statistics.medianMs),
      longestMs: count > 0 ? roundMs(longestMs) : null,
      callsPerSecond: roundMs(callsPerSecond),
      selfErrorMs: roundMs(selfErrorMs),
    };
  });
  return { version: REPORT_VERSION, recording: reportOf(recording), lens, functions };
}
