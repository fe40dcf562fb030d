import type { Row } from '../format/rows';
import type { Recording } from '../recording/recording';
import { recordingOf } from './arbitrary-recording';

export const PICTURE_MS = 4;

/** A tap at a time, with its listener. */
export const tap = (startMs: number, id: number, target = 'button “Crew roster”'): Row[] => [
  {
    kind: 'input',
    thread: 0,
    startMs,
    durationMs: 24,
    type: 'click',
    processingStartMs: startMs + 2,
    processingEndMs: startMs + 6,
    interaction: id,
    target,
  },
  {
    kind: 'handler',
    thread: 0,
    startMs: startMs + 2,
    durationMs: 4,
    type: 'event-listener',
    invoker: 'BUTTON#crew-roster.onclick',
    id,
  },
];
/** Something that a handler asks for. */
export const asked = (startMs: number, id: number, by: number, about: object = {}): Row =>
  ({ kind: 'schedule', thread: 0, startMs, id, type: 'timer', by, ...about }) as Row;
/** A handler that runs as something asked for has come. */
export const came = (startMs: number, durationMs: number, id: number, schedule: number): Row => ({
  kind: 'handler',
  thread: 0,
  startMs,
  durationMs,
  type: 'user-callback',
  invoker: 'TimerHandler:setTimeout',
  id,
  schedule,
});
/** A change in view, and the picture of it. */
export const drawn = (startMs: number, by: number, about: object = {}): Row[] => [
  { kind: 'render', thread: 0, startMs, durationMs: PICTURE_MS, styleMs: 1, layoutMs: 1, paintMs: 2 },
  {
    kind: 'redraw',
    thread: 0,
    startMs,
    nodes: 1,
    attributes: 0,
    texts: 0,
    changed: true,
    inView: true,
    target: 'list “Crew”',
    by,
    ...about,
  } as Row,
];
const end: Row = { kind: 'end', startMs: 30_000, reason: 'stopped' };
/** A recording of half a minute. */
export const recordingOfChain = (...rows: Row[]): Recording => recordingOf([...rows, end]);
