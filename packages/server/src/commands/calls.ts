import {
  decimalText,
  callsReport,
  exactCostWords,
  lensSchema,
  placeText,
  validationWords,
  type CallsReport,
  type ReportedLine,
  type Lens,
  type Recording,
  countText,
  msFigure,
} from '@nettle-patch/core';
import { ValidationError } from 'yup';
import type { Output } from './output';
import { numberFrom, rangeFrom, type RangeFlags } from './range-flags';
import { FileError } from './read-recording';

export interface CallsFlags extends RangeFlags {
  readonly thread?: string;
  readonly min?: string;
  readonly own?: boolean;
  readonly foldRecursion?: boolean;
  readonly focus?: readonly string[];
  readonly text?: string;
  readonly top?: string;
  readonly lines?: boolean;
}

/** The lens that flags ask for. @throws FileError where one makes no sense */
export function lensFrom(recording: Recording, flags: CallsFlags): Lens {
  const range = rangeFrom(recording, flags);
  const focus = (flags.focus ?? []).map((wanted) => {
    const all = [...recording.functions.values()];
    const found = all.find(({ name, originalName }) => (originalName ?? name) === wanted);
    if (found === undefined)
      throw new FileError(`--focus: no function is called "${wanted}" in this recording.`);
    return found.id;
  });
  try {
    return lensSchema.validateSync({
      range: range && [range.startMs, range.endMs],
      thread: numberFrom(flags.thread, '--thread', 0),
      minMs: numberFrom(flags.min, '--min', 0),
      foldLibraries: flags.own ?? false,
      foldRecursion: flags.foldRecursion ?? false,
      focus,
    });
  } catch (error) {
    if (error instanceof ValidationError)
      throw new FileError(`This lens makes no sense: ${validationWords(error)}.`);
    throw error;
  }
}

function matching(report: CallsReport, text: string | undefined): CallsReport {
  if (text === undefined) return report;
  const wanted = text.toLowerCase();
  const isWanted = (named: string) => named.toLowerCase().includes(wanted);
  const lines = report.lines?.filter(({ file }) => isWanted(file));
  return {
    ...report,
    functions: report.functions.filter(({ name, file }) => isWanted(`${name} ${file ?? ''}`)),
    ...(lines === undefined ? {} : { lines }),
  };
}

const ms = (value: number | null) => (value === null ? '' : msFigure(value));

function writeLines(output: Output, lines: readonly ReportedLine[], top: number, unit: string): void {
  const isKnown = lines.some(({ samples }) => samples > 0);
  if (!isKnown)
    output.line(
      'Lines are known of recordings in fine mode; the times of whole functions stand at their first lines.',
    );
  output.table(
    [
      [`self ${unit}`, 'error', `total ${unit}`, 'samples', 'calls', 'where'],
      ...lines
        .slice(0, top)
        .map(({ file, line, owner, selfMs, selfErrorMs, totalMs, samples, count }) => [
          ms(selfMs),
          samples > 0 ? `± ${ms(selfErrorMs)}` : '',
          ms(totalMs),
          samples > 0 ? countText(samples) : '',
          count > 0 ? countText(count) : '',
          `${file}:${line}${owner === 'own' ? '' : ` (${owner})`}`,
        ]),
    ],
    [true, true, true, true, true, false],
  );
}

/** Writes the functions of a recording with what they took, or its lines. */
export function writeCalls(output: Output, recording: Recording, flags: CallsFlags, asJson: boolean): void {
  const lens = lensFrom(recording, flags);
  const report = matching(callsReport(recording, lens, flags.lines), flags.text);
  if (asJson) {
    output.json(report);
    return;
  }
  const top = numberFrom(flags.top, '--top', 40);
  const { unit } = report.recording;
  if (report.lines === undefined) writeFunctions(output, report.functions, top, unit);
  else writeLines(output, report.lines, top, unit);
  const { length } = report.lines ?? report.functions;
  if (length > top) output.line(`and ${length - top} more; --top ${length} shows all`);
  if (report.exactCost !== undefined) output.line(exactCostWords(report.exactCost.factor));
}

function writeFunctions(
  output: Output,
  functions: CallsReport['functions'],
  top: number,
  unit: string,
): void {
  output.table(
    [
      [
        `self ${unit}`,
        'error',
        `total ${unit}`,
        'calls',
        `median ${unit}`,
        `longest ${unit}`,
        'calls/s',
        'function',
        'where',
      ],
      ...functions
        .slice(0, top)
        .map((row) => [
          ms(row.selfMs),
          row.selfErrorMs > 0 ? `± ${ms(row.selfErrorMs)}` : '',
          ms(row.totalMs),
          row.count > 0 ? countText(row.count) : '',
          ms(row.medianMs),
          ms(row.longestMs),
          row.count > 0 ? decimalText(row.callsPerSecond, 1) : '',
          row.owner === 'own' ? row.name : `${row.name} (${row.owner})`,
          placeText(row),
        ]),
    ],
    [true, true, true, true, true, true, true, false, false],
  );
}
