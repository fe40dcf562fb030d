import { WIDE_LENS, type Lens } from '../calls/lens';
import type { Recording } from '../recording/recording';
import { callsReport } from '../report/calls-report';
import { explainReport, type ReportedSting } from '../report/explain-report';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { isTime, weightUnit } from '../recording/weights';
import { csvLines } from './csv';

export const TABLES = ['functions', 'stings', 'requests'] as const;
export type TableName = (typeof TABLES)[number];

/** Phases of a sting; requests, timers and pages are phases of slow outcomes alone. */
const PHASE_COLUMNS = [
  'waitingMs',
  'handlingMs',
  'drawingMs',
  'requestMs',
  'timerMs',
  'workerMs',
  'loadingMs',
] as const satisfies readonly (keyof ReportedSting['phases'])[];

/** One of the tables of a recording as CSV. Times are milliseconds; what is in another unit says so in its heading. */
export function tableAsCsv(
  recording: Recording,
  table: TableName,
  lens: Lens = WIDE_LENS,
): Generator<string> {
  const unit = weightUnit(recording.header);
  const inUnit = (name: string) => (isTime(unit) ? `${name}Ms` : `${name} (${unit})`);
  switch (table) {
    case 'functions':
      return csvLines(
        [
          ...['name', 'file', 'line', 'column', 'owner'],
          ...['self', 'total'].map(inUnit),
          'count',
          ...['shortest', 'median', 'longest'].map(inUnit),
          'callsPerSecond',
        ],
        callsReport(recording, lens).functions.map((row) => [
          row.name,
          row.file,
          row.line,
          row.column,
          row.owner,
          row.selfMs,
          row.totalMs,
          row.count,
          row.shortestMs,
          row.medianMs,
          row.longestMs,
          row.callsPerSecond,
        ]),
      );
    case 'stings':
      return csvLines(
        ['kind', 'label', 'startMs', 'feltMs', 'budgetMs', ...PHASE_COLUMNS, 'because'],
        explainReport(recording, DEFAULT_THRESHOLDS).stings.map(
          ({ kind, label, startMs, feltMs, budgetMs, phases, because }) => [
            kind,
            label,
            startMs,
            feltMs,
            budgetMs,
            ...PHASE_COLUMNS.map((name) => phases[name]),
            because,
          ],
        ),
      );
    case 'requests':
      return csvLines(
        ['url', 'startMs', 'durationMs', 'responseStartMs', 'bytes', 'status', 'initiator'],
        [...recording.events.request.rows()].map((row) => [
          row.url,
          row.startMs,
          row.durationMs,
          row.responseStartMs ?? null,
          row.bytes ?? null,
          row.status ?? null,
          row.initiator,
        ]),
      );
  }
}
