/**
 * What the package offers to other programs: recordings read and written, what keeps inputs waiting in them and why, who
 * called whom, budgets and comparisons. All runs in Node, in browsers and in workers alike.
 */
export { anatomyOf, PHASES, type Anatomy, type Phase, type PhaseName } from './explanation/anatomy';
export { becauseOf } from './detectors/because';
export { becauseText, type BecausePart } from './explanation/sentence';
export { functionTable, type FunctionRow } from './calls/function-table';
export { lensSchema, WIDE_LENS, type Lens } from './calls/lens';
export { compareRecordings, type Comparison } from './compare/compare';
export { csvLines } from './export/csv';
export { flameSvg } from './export/flame-svg';
export { foldedStacks } from './export/folded';
export { httpArchive } from './export/http-archive';
export { performanceEntries } from './export/performance-entries';
export { selfProfile, type ProfileTrace } from './export/self-profile';
export { TABLES, tableAsCsv, type TableName } from './export/tables';
export { RecordingDecoder, type RowSink } from './format/decoder';
export { encodeRecording, withChecks } from './recording/encoder';
export { RefusedRecordingError, type ReadNotice, type RefusalCode } from './format/errors';
export { readHeader, type Header } from './format/header';
export { CALL_END, packCalls, unpackCalls, type CallEvents } from './format/packed-calls';
export { packCounts, unpackCounts, type CountColumns } from './format/packed-counts';
export { NO_STACK, packSamples, unpackSamples, type SampleColumns } from './format/packed-samples';
export type { Row, RowContent, RowOfKind } from './format/rows';
export { RecordingVerifier, type Finding } from './recording/verifier';
export { FORMAT_MAJOR, FORMAT_NAME, FORMAT_VERSION } from './format/version';
export { linesOfOpenFormat } from './imports/open-formats';
export { interactionsOf, type Interaction } from './inputs/interactions';
export { RecordingBuilder } from './recording/builder';
export { readRecording, type ReadResult } from './recording/read';
export {
  EVENT_KINDS,
  MAIN_THREAD,
  type EventKind,
  type Recording,
  type TimeRange,
} from './recording/recording';
export { checkBudget, type BudgetResult, type HeldBy } from './report/budget';
export { budgetFrom } from './report/budget-from';
export { budgetSchema, type Budget } from './report/budget-schema';
export { callsReport, type CallsReport } from './report/calls-report';
export { comparisonPage } from './report/comparison-page';
export { comparisonMarkdown, comparisonReport } from './report/comparison-report';
export { sumsReport, type ReportedSums } from './report/sums-report';
export { explainReport, type ExplainReport, type ReportedSting } from './report/explain-report';
export { proofOf, type Proof } from './report/proof';
export { findStings } from './detectors/index';
export { STING_KINDS, type StingKind } from './detectors/list';
export type { Sting } from './stings/sting';
export { DEFAULT_THRESHOLDS, thresholdsOf, thresholdsSchema, type Thresholds } from './format/thresholds';
export { VERSION } from './format/product-version';
