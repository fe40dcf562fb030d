import { EVENT_KINDS, type Recording } from './recording';
import { RunningCheck } from '../format/check-row';
import { packCalls } from '../format/packed-calls';
import { NO_STACK, packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';

const SAMPLES_A_ROW = 2000;
const EVENTS_A_ROW = 50_000;
const LINES_A_CHECK = 200;

/** All rows of a recording after its header: interned tables first, then events kind by kind. */
function* rowsOf(recording: Recording): Generator<Row> {
  for (const thread of recording.threads.values()) yield { kind: 'thread', ...thread };
  for (const source of recording.sources.values()) yield { kind: 'source', ...source };
  for (const recorded of recording.functions.values()) {
    if (recorded.id >= 0) yield { kind: 'function', ...recorded };
  }
  for (const [file, text] of recording.files) yield { kind: 'text', file, text };
  const { stacks } = recording;
  for (const stack of stacks.given()) {
    const parent = stacks.parentOf(stack);
    const [line, column] = [stacks.lineOf(stack), stacks.columnOf(stack)];
    yield {
      kind: 'stack',
      id: stacks.rowIdOf(stack),
      function: stacks.functionOf(stack),
      ...(parent === NO_STACK ? {} : { parent: stacks.rowIdOf(parent) }),
      ...(line === 0 ? {} : { line }),
      ...(column === 0 ? {} : { column }),
    };
  }
  for (const [thread, samples] of recording.samples) {
    for (let from = 0, to = 0; from < samples.length; from = to) {
      const intervalMs = samples.intervalOf(from);
      while (to < samples.length && to < from + SAMPLES_A_ROW && samples.intervalOf(to) === intervalMs) to++;
      const part = {
        timesUs: samples.timesUs.subarray(from, to),
        stacks: samples.stacks
          .subarray(from, to)
          .map((stack) => (stack === NO_STACK ? NO_STACK : stacks.rowIdOf(stack))),
        together: samples.together?.subarray(from, to),
      };
      yield { kind: 'samples', ...packSamples(thread, intervalMs, part) };
    }
  }
  for (const [thread, calls] of recording.calls) {
    for (const part of calls.events(stacks, EVENTS_A_ROW)) {
      yield { kind: 'calls', ...packCalls(thread, part) };
    }
  }
  for (const kind of EVENT_KINDS) {
    for (const event of recording.events[kind].rows()) yield { kind, ...event } as Row;
  }
}

/** Lines of a recording as written to a file, each without its line end, with check lines among them. */
export function* encodeRecording(recording: Recording): Generator<string> {
  yield* withChecks(plainLines(recording));
}

function* plainLines(recording: Recording): Generator<string> {
  yield JSON.stringify(recording.header);
  yield* recording.unknownLines;
  for (const row of rowsOf(recording)) yield JSON.stringify(row);
}

/** Text of the file of a recording: its lines, with check lines among them. */
export function fileText(lines: Iterable<string>): string {
  return Array.from(withChecks(lines), (line) => `${line}\n`).join('');
}

/** Puts a check line after every few lines, and one after the last. */
export function* withChecks(lines: Iterable<string>): Generator<string> {
  const encoder = new TextEncoder();
  const check = new RunningCheck();
  let since = 0;
  for (const line of lines) {
    const bytes = encoder.encode(line);
    check.add({ bytes, from: 0, to: bytes.length });
    yield line;
    if (++since === LINES_A_CHECK) {
      yield check.take();
      since = 0;
    }
  }
  if (since > 0) yield check.take();
}
