import type { ServedApp } from './apps';
import { array, boolean, number, object, string, type InferType, ValidationError } from 'yup';

const id = () => string().min(1).max(64).required();

export const targetSchema = object({
  id: id(),
  title: string().max(300).defined(),
  url: string().max(2000).defined(),
  engine: string().max(60).required(),
  device: string().max(120).defined(),
  available: array(string().max(60).required()).max(60).required(),
  missing: array(string().max(60).required()).max(60).required(),
  visible: boolean().required(),
  /** Refresh interval of its display, where it is known. */
  refreshMs: number().moreThan(0).max(1000).optional(),
  /** How long the calculation of `measureCalculation` took there, where it was measured. */
  calculationMs: number().moreThan(0).max(60_000).optional(),
  recording: object({
    id: id(),
    state: string().oneOf(['recording', 'paused']).required(),
    elapsedMs: number().min(0).required(),
  })
    .nullable()
    .default(null),
});
/** A page that can be recorded, as it presents itself. */
export type Target = InferType<typeof targetSchema>;

/** From the interface to one target; the server passes it on. */
const commandSchema = object({
  type: string()
    .oneOf([
      'start',
      'start-with-next-load',
      'pause',
      'go-on',
      'stop',
      'follow',
      'acknowledge',
      'note',
      'reload',
    ])
    .required(),
  targetId: id(),
  recordingId: id(),
  /** For `acknowledge`: all batches up to this one are kept safe. */
  sequence: number().integer().min(0),
  /** For `start`: whether typed words may be kept; a page that came from the browser's cache may remember otherwise. */
  words: boolean(),
  /** For `start`: whether controls are named by their visible text. */
  byText: boolean(),
  /** For `note`: its text. */
  text: string().max(200),
});
export type Command = InferType<typeof commandSchema>;

/** From a target to the server: it introduces itself, and again whenever something of it changes. */
const helloSchema = object({ type: string().oneOf(['hello']).required(), target: targetSchema.required() });
export type Hello = InferType<typeof helloSchema>;

/** First line of a frame of rows; the rows follow it, one a line. */
const batchSchema = object({
  type: string().oneOf(['rows']).required(),
  targetId: id(),
  recordingId: id(),
  sequence: number().integer().min(0).required(),
  /** The recording has ended with this batch. */
  last: boolean().default(false),
});
export type Batch = InferType<typeof batchSchema>;

/** A target as the interface is told of it. */
export interface ListedTarget extends Target {
  /** The device of the room it runs on; null on the computer of the server. */
  readonly visitor: string | null;
}

/** From the server to the interface. */
export type ServerMessage =
  | {
      readonly type: 'targets';
      readonly targets: readonly ListedTarget[];
      readonly apps: readonly ServedApp[];
    }
  | { readonly type: 'target-left'; readonly targetId: string; readonly recordingId: string | null };

/** Thrown when a message does not have the shape the protocol gives it. */
export class ProtocolError extends Error {
  override readonly name = 'ProtocolError';
}

function parse<T>(text: string, schema: { validateSync(value: unknown, options: { strict: true }): T }): T {
  try {
    return schema.validateSync(JSON.parse(text), { strict: true });
  } catch (error) {
    if (error instanceof ValidationError || error instanceof SyntaxError)
      throw new ProtocolError(error.message);
    throw error;
  }
}

/** @throws ProtocolError */
export const parseCommand = (text: string): Command => parse(text, commandSchema);
/** @throws ProtocolError */
export const parseHello = (text: string): Hello => parse(text, helloSchema);

export interface BatchFrame {
  readonly batch: Batch;
  /** Lines of the recording, each with its line end. */
  readonly lines: string;
}

/** @throws ProtocolError */
export function readBatch(frame: string): BatchFrame {
  const end = frame.indexOf('\n');
  if (end < 0) throw new ProtocolError('a frame of rows has no line end after its envelope');
  return { batch: parse(frame.slice(0, end), batchSchema), lines: frame.slice(end + 1) };
}
