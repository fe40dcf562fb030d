import { callTree } from '../calls/call-tree';
import { flameLayout } from '../calls/flame-layout';
import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { fileCosts } from '../calls/line-costs';
import { compareRecordings } from '../compare/compare';
import { CALL_END, packCalls } from '../format/packed-calls';
import type { Row } from '../format/rows';
import { interactionsOf } from '../inputs/interactions';
import type { Recording } from '../recording/recording';
import { reportSting } from '../report/explain-report';
import { findStings } from '../detectors/index';
import { seriesOf } from '../stings/series';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { deskHeader, recordingOf } from './arbitrary-recording';
import { deskFunctions, deskRun, deskTap, end } from './desk-rows';

/** Something a recording may have much of, and what is asked of it then. */
export interface Growth {
  readonly name: string;
  /** How much of it at 1 ×. */
  readonly size: number;
  rows(size: number): Row[];
  ask(recording: Recording): void;
}

const EXPLAINED = 50;

function explain(recording: Recording): void {
  const stings = findStings(recording, DEFAULT_THRESHOLDS);
  seriesOf(stings, interactionsOf(recording));
  for (const sting of stings.slice(0, EXPLAINED)) reportSting(recording, sting);
}

/** What recordings may grow by: no step over them is to be worse than n log n. */
export const GROWTHS: readonly Growth[] = [
  {
    name: 'functions with texts',
    size: 5000,
    rows: (size) => {
      const names = Array.from({ length: size }, (_, id) => `deal${id}`);
      const texts = names.map((name, id): Row => ({
        kind: 'text',
        file: `src/${id}.ts`,
        text: `${name};\n`.repeat(9),
      }));
      const functions = names.map((name, id): Row => ({
        kind: 'function',
        id,
        name,
        source: 0,
        originalName: name,
        originalFile: `src/${id}.ts`,
        originalLine: 3,
        originalColumn: 1,
      }));
      const timesUs = names.flatMap((_, at) => [at * 500, at * 500 + 400]);
      const calls = { timesUs, functions: names.flatMap((_, id) => [id, CALL_END]) };
      return [deskFunctions()[0]!, ...functions, ...texts, { kind: 'calls', ...packCalls(0, calls) }];
    },
    ask: (recording) => {
      functionTable(recording, WIDE_LENS);
      fileCosts(recording, WIDE_LENS);
      explain(recording);
    },
  },
  {
    name: 'stings',
    size: 2500,
    rows: (size) => [
      ...deskFunctions('weigh'),
      ...Array.from({ length: size }, (_, at): Row[] => [
        deskTap(at * 400, 320),
        deskRun(at * 400 + 2, 300, 0, { type: 'event-listener', invoker: 'BUTTON' }),
      ]).flat(),
      end(size * 400),
    ],
    ask: explain,
  },
  {
    name: 'labels',
    size: 1000,
    rows: (size) => [
      ...deskFunctions('weigh'),
      ...Array.from({ length: size * 4 }, (_, at): Row[] => [
        deskTap(at * 400, 120, { target: `button “Lane ${at % size}”` }),
        deskRun(at * 400 + 2, 100, 0, { type: 'event-listener', invoker: 'BUTTON' }),
      ]).flat(),
      end(size * 1600),
    ],
    ask: (recording) => void compareRecordings(recording, recording),
  },
  {
    name: 'stack depth',
    size: 5000,
    rows: (size) => {
      const timesUs = Array.from({ length: 2 * size }, (_, at) => at * 10);
      const functions = timesUs.map((_, at) => (at < size ? at % 2 : CALL_END));
      return [...deskFunctions('weigh', 'stow'), { kind: 'calls', ...packCalls(0, { timesUs, functions }) }];
    },
    ask: (recording) => {
      functionTable(recording, WIDE_LENS);
      flameLayout(recording, callTree(recording, WIDE_LENS), 'weight', 1 / 2400);
      explain(recording);
    },
  },
];

/** Makes a recording with so much of something. */
export function grown(growth: Growth, times: number): Recording {
  return recordingOf(growth.rows(growth.size * times), deskHeader({ available: ['event', 'handlers'] }));
}
