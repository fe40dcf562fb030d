import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { RefusedRecordingError } from '../format/errors';
import { ImportedTables, counted, type Imported } from './imported';

/** Frames from the outermost inwards, parted by semicolons, then a space and a count. */
const LINE = /^(.+) (\d+(?:\.\d+)?)$/;
/** "name (path:line)", as a place is often written behind a name. */
const PLACE = /^(.*?) \((.+?):(\d+)(?::\d+)?\)$/;
/** More samples than this are thinned out, evenly. */
const MOST_SAMPLES = 200_000;
/** A sample stands for as long before it as after it. */
const HALF = 0.5;
const LIBRARY_PATH = /node_modules\//;
const ENGINE_PATH = /^(?:node:|internal\/|native )/;

/** Whether a text looks like folded stacks: its first lines all end in a count. */
export function isFolded(text: string): boolean {
  const lines = text
    .slice(0, 20_000)
    .split('\n')
    .map((line) => line.trimEnd())
    .filter(Boolean);
  const whole = lines.length > 1 && text.length > 20_000 ? lines.slice(0, -1) : lines;
  return whole.length > 0 && whole.every((line) => LINE.test(line));
}

function functionOf(frame: string): Omit<Extract<Row, { kind: 'function' }>, 'id' | 'kind'> {
  const [, name = frame, file, line] = PLACE.exec(frame) ?? [];
  if (file === undefined) return { name: frame, owner: 'own' };
  const owner = LIBRARY_PATH.test(file) ? 'library' : ENGINE_PATH.test(file) ? 'browser' : 'own';
  return { name, originalName: name, originalFile: file, originalLine: Number(line), owner };
}

/**
 * Reads folded stacks: one stack a line, functions from the outermost inwards parted by semicolons, a space and a
 * count. They have no times: the stacks are laid one after the other, each as long as its count.
 * @throws RefusedRecordingError naming the first line that is none
 */
export function readFoldedStacks(text: string): Imported {
  const tables = new ImportedTables();
  const stacks: { readonly id: number; readonly count: number }[] = [];
  let total = 0;
  text.split('\n').forEach((line, index) => {
    const trimmed = line.trimEnd();
    if (trimmed === '') return;
    const [, path, count] = LINE.exec(trimmed) ?? [];
    if (path === undefined) {
      throw new RefusedRecordingError(
        'not-a-recording',
        `line ${index + 1} is no folded stack: it must end in a space and a count`,
      );
    }
    let id: number | undefined;
    for (const frame of path.split(';')) id = tables.stack(tables.function(functionOf(frame.trim())), id);
    stacks.push({ id: id!, count: Number(count) });
    total += Number(count);
  });
  const step = Math.max(1, total / MOST_SAMPLES);
  const columns = { timesUs: [] as number[], stacks: [] as number[] };
  let wanted = 0;
  for (const { id, count } of stacks) {
    wanted += count / step;
    while (columns.timesUs.length + HALF < wanted) {
      columns.timesUs.push(Math.round((columns.timesUs.length + HALF) * step * 1000));
      columns.stacks.push(id);
    }
  }
  const endMs = columns.timesUs.length * step;
  const thinned =
    step > 1
      ? [`There are more counts than can be told apart: each sample stands for ${step.toFixed(1)} of them.`]
      : [];
  return {
    format: 'folded stacks',
    available: ['folded-stacks'],
    timeless: true,
    lost: [
      'Folded stacks have no times, only how often each stack was seen: Calls can show them, the other views cannot. A count is shown as a millisecond.',
      ...thinned,
    ],
    rows: [
      { kind: 'thread', id: 0, name: `${counted(stacks.length, 'stack', 'stacks')}`, type: 'main' },
      ...tables.rows,
      { kind: 'samples', ...packSamples(0, step, columns) },
      { kind: 'end', startMs: endMs, reason: 'stopped' },
    ],
  };
}
