import { cutText } from '../words/cut-text';
import { filePlaceOf } from '../calls/line-costs';
import type { Recording } from '../recording/recording';
import { linesOf } from '../sources/code-of-line';
import type { Culprit } from './culprits';

/** Lines of a function with what each cost in one sting. */
export interface Excerpt {
  readonly functionId: number;
  readonly file: string;
  readonly lines: readonly ExcerptLine[];
  /** Whether it is known which line took how long; else the lines are those at which the function begins. */
  readonly knowsLines: boolean;
}

export interface ExcerptLine {
  readonly line: number;
  /** Without the indentation that all the lines have. */
  readonly text: string;
  /** Its own time, and that of libraries and the engine it called. Milliseconds. */
  readonly chargedMs: number;
}

const LINES = 9;
/** Lines before the first that cost something. */
const LEAD = 2;
/** Characters of a line: what was written by a tool can be a whole script in one. */
const MAX_TEXT = 160;

/** The part of a culprit's source that cost most; undefined where the recording does not carry its text. */
export function excerptOf(
  recording: Recording,
  { functionId, hotLines }: Pick<Culprit, 'functionId' | 'hotLines'>,
): Excerpt | undefined {
  const place = filePlaceOf(recording, recording.functions.get(functionId));
  const index = place && linesOf(recording, place.file);
  if (place === undefined || index === undefined) return undefined;
  const costs = new Map(hotLines.map(({ line, chargedMs }) => [line, chargedMs]));
  const first = Math.max(1, firstLine([...costs], place.line));
  const last = Math.min(first + LINES - 1, index.count);
  if (last < first) return undefined;
  const texts = Array.from({ length: last - first + 1 }, (_, at) => index.lineOf(first + at).trimEnd());
  const indent = Math.min(...texts.filter((text) => text !== '').map((text) => text.search(/\S/)));
  return {
    functionId,
    file: place.file,
    knowsLines: costs.size > 0,
    lines: texts.map((text, at) => ({
      line: first + at,
      text: shortened(text.slice(indent)),
      chargedMs: costs.get(first + at) ?? 0,
    })),
  };
}

/** Where the lines with the most time in them begin: with the function, where that is near. */
function firstLine(costs: readonly (readonly [line: number, ms: number])[], begins: number): number {
  if (costs.length === 0) return begins;
  const sumFrom = (from: number) =>
    costs.reduce((sum, [line, ms]) => sum + (line >= from && line < from + LINES ? ms : 0), 0);
  const starts = [begins, ...costs.map(([line]) => line - LEAD)];
  return starts.reduce((best, from) => (sumFrom(from) > sumFrom(best) ? from : best));
}

function shortened(text: string): string {
  return cutText(text, MAX_TEXT);
}
