import {
  callsReport,
  lensSchema,
  placeText,
  type CallsReport,
  type Lens,
  type Recording,
  countText,
  msFigure,
} from '@nettle-patch/core';
import { ValidationError } from 'yup';
import type { Output } from './output';
import { FileError } from './read-recording';

export interface CallsFlags {
  readonly from?: string;
  readonly to?: string;
  readonly thread?: string;
  readonly min?: string;
  readonly own?: boolean;
  readonly foldRecursion?: boolean;
  readonly focus?: string;
  readonly text?: string;
  readonly top?: string;
}

function numberFrom(text: string | undefined, what: string, usual: number): number {
  if (text === undefined) return usual;
  const value = Number(text);
  if (!Number.isFinite(value)) throw new FileError(`${what} takes a number, got "${text}".`);
  return value;
}

/** The lens that flags ask for. @throws FileError where one makes no sense */
export function lensFrom(recording: Recording, flags: CallsFlags): Lens {
  const range =
    flags.from === undefined && flags.to === undefined
      ? undefined
      : [numberFrom(flags.from, '--from', 0), numberFrom(flags.to, '--to', recording.range.endMs)];
  const focused = flags.focus;
  const focus =
    focused === undefined
      ? undefined
      : [...recording.functions.values()].find(({ name, originalName }) => (originalName ?? name) === focused)
          ?.id;
  if (focused !== undefined && focus === undefined) {
    throw new FileError(`--focus: no function is called "${focused}" in this recording.`);
  }
  try {
    return lensSchema.validateSync({
      range,
      thread: numberFrom(flags.thread, '--thread', 0),
      minMs: numberFrom(flags.min, '--min', 0),
      foldLibraries: flags.own ?? false,
      foldRecursion: flags.foldRecursion ?? false,
      focus,
    });
  } catch (error) {
    if (error instanceof ValidationError) throw new FileError(`This lens makes no sense: ${error.message}.`);
    throw error;
  }
}

function matching(report: CallsReport, text: string | undefined): CallsReport {
  if (text === undefined) return report;
  const wanted = text.toLowerCase();
  const functions = report.functions.filter(({ name, file }) =>
    `${name} ${file ?? ''}`.toLowerCase().includes(wanted),
  );
  return { ...report, functions };
}

const ms = (value: number | null) => (value === null ? '' : msFigure(value));

/** Writes the functions of a recording with what they took. */
export function writeCalls(output: Output, recording: Recording, flags: CallsFlags, asJson: boolean): void {
  const report = matching(callsReport(recording, lensFrom(recording, flags)), flags.text);
  if (asJson) {
    output.json(report);
    return;
  }
  const { unit } = report.recording;
  const top = report.functions.slice(0, numberFrom(flags.top, '--top', 40));
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
      ...top.map((row) => [
        ms(row.selfMs),
        row.selfErrorMs > 0 ? `± ${ms(row.selfErrorMs)}` : '',
        ms(row.totalMs),
        row.count > 0 ? countText(row.count) : '',
        ms(row.medianMs),
        ms(row.longestMs),
        row.count > 0 ? row.callsPerSecond.toFixed(1) : '',
        row.owner === 'own' ? row.name : `${row.name} (${row.owner})`,
        placeText(row),
      ]),
    ],
    [true, true, true, true, true, true, true, false, false],
  );
  const left = report.functions.length - top.length;
  if (left > 0) output.line(`and ${left} more; --top ${report.functions.length} shows all`);
}
