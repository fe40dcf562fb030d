import type { Row } from '../format/rows';
import { isLibraryPath } from '../recording/original-path';
import { RefusedRecordingError } from '../format/errors';
import { ImportedTables, counted, type Imported, type OpenFormat } from './imported';

/** Frames from the outermost inwards, parted by semicolons, then a space and a weight. */
const LINE = /^(.+) (\d+(?:\.\d+)?)$/;
/** The end of "name (path:line)" or "name (path:line:column)", as a place is often written behind a name. */
const LINE_OF_PLACE = /:(\d+)(?::\d+)?\)$/;
/** A line that tells the unit of the weights: "# unit: microseconds". */
const UNIT = /^#\s*unit:\s*(\S.*)$/i;
/** Units of time, in milliseconds. */
const TIMES: Readonly<Record<string, number>> = {
  ns: 1e-6,
  nanoseconds: 1e-6,
  us: 1e-3,
  µs: 1e-3,
  microseconds: 1e-3,
  ms: 1,
  milliseconds: 1,
  s: 1000,
  seconds: 1000,
};
const MAX_UNIT = 40;
const ENGINE_PATH = /^(?:node:|internal\/|native )/;

/** Whether a text looks like folded stacks: its first lines all end in a number. */
function isFolded(text: unknown): text is string {
  if (typeof text !== 'string') return false;
  const lines = text
    .slice(0, 20_000)
    .split('\n')
    .map((line) => line.trimEnd())
    .filter((line) => line !== '' && !line.startsWith('#'));
  const whole = lines.length > 1 && text.length > 20_000 ? lines.slice(0, -1) : lines;
  return whole.length > 0 && whole.every((line) => LINE.test(line));
}

function functionOf(frame: string): Omit<Extract<Row, { kind: 'function' }>, 'id' | 'kind'> {
  const place = LINE_OF_PLACE.exec(frame);
  const nameEnd = place === null ? -1 : frame.indexOf(' (');
  if (place === null || nameEnd < 0 || nameEnd + 2 >= place.index) return { name: frame, owner: 'own' };
  const [name, file, line] = [frame.slice(0, nameEnd), frame.slice(nameEnd + 2, place.index), place[1]];
  const owner = isLibraryPath(file) ? 'library' : ENGINE_PATH.test(file) ? 'browser' : 'own';
  return { name: frame, originalName: name, originalFile: file, originalLine: Number(line), owner };
}

/**
 * Reads folded stacks: one stack a line, functions from the outermost inwards parted by semicolons, a space and a
 * weight. They have no times: the stacks are laid one after the other, each as long as it weighs. What the weights are
 * is told by a line "# unit: …"; else they are counts of something.
 * @throws RefusedRecordingError naming the first line that is none
 */
function readFoldedStacks(text: string): Imported {
  const tables = new ImportedTables();
  const weights: Row[] = [];
  let unit: string | undefined;
  let total = 0;
  text.split('\n').forEach((line, index) => {
    const trimmed = line.trimEnd();
    unit ??= UNIT.exec(trimmed)?.[1]?.trim().slice(0, MAX_UNIT);
    if (trimmed === '' || trimmed.startsWith('#')) return;
    const [, path, weight] = LINE.exec(trimmed) ?? [];
    if (path === undefined) {
      throw new RefusedRecordingError(
        'not-a-recording',
        `line ${index + 1} is no folded stack: it must end in a space and a number`,
      );
    }
    let stack: number | undefined;
    for (const frame of path.split(';'))
      stack = tables.stack(tables.function(functionOf(frame.trim())), stack);
    const value = Number(weight) * (TIMES[unit?.toLowerCase() ?? ''] ?? 1);
    weights.push({ kind: 'weight', thread: 0, stack: stack!, value });
    total += value;
  });
  const isOfTime = unit !== undefined && Object.hasOwn(TIMES, unit.toLowerCase());
  const unitWords = unit === undefined ? 'counts of what the file does not say' : unit;
  return {
    format: 'folded stacks',
    available: ['folded-stacks'],
    timeless: true,
    weightUnit: isOfTime ? 'ms' : (unit ?? 'counts'),
    lost: [
      `Folded stacks have no times of day, only what each stack weighs, here ${isOfTime ? 'milliseconds' : unitWords}: Calls can show them, the other views cannot.`,
    ],
    rows: [
      { kind: 'thread', id: 0, name: `${counted(weights.length, 'stack', 'stacks')}`, type: 'main' },
      ...tables.rows,
      ...weights,
      { kind: 'end', startMs: total, reason: 'stopped' },
    ],
  };
}

export const foldedStacksFormat: OpenFormat<string> = {
  name: 'folded stacks',
  isJson: false,
  recognises: isFolded,
  read: readFoldedStacks,
};
