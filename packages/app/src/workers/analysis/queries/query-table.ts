import { displayName, type Lens, type TimeRange } from '@nettle-patch/core';
import type { Analysis } from '../analysis';
import { functionShares } from '../function-shares';
import { shownQuiet } from '../quiet-ranges';
import { stingsOfFunctions } from '../stings-of-functions';
import { transferResult } from '../transfer-result';
import type { CallsMode } from './call-queries';
import type { CallSort } from './sort-rows';
import type { ItemOrder } from './item-order';
import type { ReportForm } from '../report-form';

/** All that may be asked about what is open in the worker that analyses: a query is a line. */
export const QUERIES = {
  sting: (analysis: Analysis, index: number) => analysis.sting(index),
  stingReport: (analysis: Analysis, index: number, form: ReportForm) => analysis.stingReport(index, form),
  calls: (
    { opened }: Analysis,
    lens: Lens,
    mode: CallsMode,
    expanded: readonly string[],
    text: string,
    sort: CallSort,
  ) => opened.calls.page(lens, mode, new Set(expanded), text, sort),
  flame: ({ opened }: Analysis, lens: Lens, least: number, root: number | undefined, text: string) =>
    opened.calls.flame(lens, 'weight', least, root, text),
  dearestPath: ({ opened }: Analysis, lens: Lens) => opened.calls.dearestPath(lens),
  functionDetails: ({ opened }: Analysis, lens: Lens, functionId: number) =>
    opened.calls.details(lens, functionId),
  functionName: ({ opened }: Analysis, functionId: number) =>
    displayName(opened.recording.functions.get(functionId)),
  functionNames: ({ opened }: Analysis, functionIds: readonly number[]) =>
    functionIds.map((functionId) => displayName(opened.recording.functions.get(functionId))),
  stingsOfFunctions: ({ opened }: Analysis, functionIds: readonly number[]) =>
    stingsOfFunctions(opened.recording, opened.stings, functionIds),
  functionShares: ({ opened: { recording } }: Analysis, functionId: number, thread: number, steps: number) =>
    transferResult(functionShares(recording, functionId, thread, steps)),
  search: ({ opened }: Analysis, text: string) => opened.search.find(text),
  lanes: ({ opened }: Analysis) => opened.timeline.lanes(),
  /** The columns are handed over, not copied. */
  draw: ({ opened }: Analysis, range: TimeRange, pixels: number, ids: readonly string[], lit?: number) =>
    transferResult(opened.timeline.draw(range, pixels, ids, lit)),
  itemAt: ({ opened }: Analysis, lane: string, ms: number, row: number, withinMs: number) =>
    opened.timeline.at(lane, ms, row, withinMs),
  card: ({ opened }: Analysis, lane: string, ms: number, row: number, withinMs: number) =>
    opened.timeline.card(lane, ms, row, withinMs),
  item: ({ opened }: Analysis, lane: string, ref: number) => opened.timeline.details(lane, ref),
  itemLines: ({ opened }: Analysis, lane: string, range: TimeRange, order: ItemOrder) =>
    opened.timeline.lines(lane, range, order),
  sums: ({ opened }: Analysis, range: TimeRange, thread: number) => opened.timeline.sums(range, thread),
  quiet: ({ opened }: Analysis, marked: readonly TimeRange[]) => shownQuiet(opened.recording, marked),
  interactionRows: ({ opened }: Analysis) => opened.timeline.interactionRows(),
  interactionSlices: ({ opened }: Analysis, indexes: readonly number[]) =>
    opened.timeline.interactionSlices(indexes),
  files: ({ opened }: Analysis, lens: Lens) => opened.source.files(lens),
  file: ({ opened }: Analysis, lens: Lens, file: string) => opened.source.file(lens, file),
  fileLocation: ({ opened }: Analysis, functionId: number) => opened.source.locationOf(functionId),
  supplyText: ({ opened }: Analysis, file: string, text: string) => opened.source.supply(file, text),
  anatomies: ({ compared }: Analysis, label: string) => compared.anatomies(label),
  proof: ({ compared }: Analysis, form: ReportForm) => compared.proof(form),
  severalReport: ({ several }: Analysis, form: ReportForm) => several.report(form),
};

export type QueryName = keyof typeof QUERIES;
export type QueryArguments<Name extends QueryName> =
  Parameters<(typeof QUERIES)[Name]> extends [Analysis, ...infer Rest] ? Rest : never;
export type QueryAnswer<Name extends QueryName> = Awaited<ReturnType<(typeof QUERIES)[Name]>>;
