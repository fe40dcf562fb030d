import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import { packSamples, NO_STACK } from '../format/packed-samples';
import type { Row } from '../format/rows';
import type { Recording } from '../recording/recording';
import { recordingOf, deskHeader } from './arbitrary-recording';

const INTERVAL_MS = 10;
/** The fraction of the golden ratio: its multiples fall evenly, so that few draws show an expectation. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** What is told of a function's own time in a recording. Milliseconds. */
export function toldMs(recording: Recording, functionId: number): number {
  return functionTable(recording, WIDE_LENS).find((row) => row.functionId === functionId)?.selfMs ?? 0;
}

/** A run of handlers of one length, in each of which the same functions run one after the other. */
export interface SimulatedRun {
  readonly recording: Recording;
  /** Milliseconds that each function truly ran in all, by its id. */
  readonly trueMs: readonly number[];
}

/**
 * Handlers of a known length and known content, sampled every 10 ms at any phase.
 * @param handlerMs length of each
 * @param shares of its functions, in their order; they sum to 1
 * @param count number of handlers
 */
export function simulatedRun(handlerMs: number, shares: readonly number[], count: number): SimulatedRun {
  const functions = shares.map((_, id): Row => ({
    kind: 'function',
    id: id + 1,
    name: `part${id + 1}`,
    source: 0,
  }));
  const stacks = shares.map((_, id): Row => ({ kind: 'stack', id: id + 1, function: id + 1, parent: 0 }));
  const handlers: Row[] = [];
  const edges = shares.reduce<number[]>((sums, share) => [...sums, sums.at(-1)! + share * handlerMs], [0]);
  const timesUs: number[] = [];
  const stackIds: number[] = [];
  let startMs = 0;
  let nextSampleMs = 0;
  for (let index = 0; index < count; index++) {
    const phaseMs = ((index * GOLDEN) % 1) * INTERVAL_MS;
    startMs = Math.ceil((startMs + handlerMs) / INTERVAL_MS + 2) * INTERVAL_MS + phaseMs;
    handlers.push({
      kind: 'handler',
      thread: 0,
      startMs,
      durationMs: handlerMs,
      type: 'event-listener',
      invoker: 'BUTTON#board-all.onclick',
      function: 0,
    });
    for (; nextSampleMs < startMs + handlerMs; nextSampleMs += INTERVAL_MS) {
      const inMs = nextSampleMs - startMs;
      const part = edges.findIndex((edge, at) => at > 0 && inMs < edge);
      timesUs.push(Math.round(nextSampleMs * 1000));
      stackIds.push(inMs < 0 || part < 0 ? NO_STACK : part);
    }
  }
  timesUs.push(Math.round(nextSampleMs * 1000));
  stackIds.push(NO_STACK);
  const recording = recordingOf(
    [
      { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
      { kind: 'function', id: 0, name: 'onBoardAll', source: 0 },
      ...functions,
      { kind: 'stack', id: 0, function: 0 },
      ...stacks,
      ...handlers,
      { kind: 'samples', ...packSamples(0, INTERVAL_MS, { timesUs, stacks: stackIds }) },
    ],
    deskHeader({ available: ['event', 'handlers', 'js-self-profiling'] }),
  );
  return { recording, trueMs: [0, ...shares.map((share) => share * handlerMs * count)] };
}
