import { array, boolean, number, object, string, type InferType } from 'yup';
import { servedAppSchema } from './apps';
import { ProtocolError, checked, fromJson, ofType, ofTypes, typeName, typeOf } from './discriminated';
import { PROTOCOL_VERSION } from './version';

export { ProtocolError, checked } from './discriminated';

const id = () => string().min(1).max(64).required();

/** As many frames and origins of others are told of at most. */
export const MAX_FOREIGN = 20;

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
  /** What the page holds from other origins, which isolating it (HTML, cross-origin isolation) touches. */
  foreign: object({
    /** Frames, in words: they do not load any more. */
    frames: array(string().max(300).required()).max(MAX_FOREIGN).required(),
    /** Origins of other files: they are asked for without cookies, or must allow it. */
    origins: array(string().max(300).required()).max(MAX_FOREIGN).required(),
  })
    .default(undefined)
    .optional(),
  /** Whether the page is isolated (HTML, cross-origin isolation); left out where no page of its origin can be. */
  isolated: boolean().optional(),
  /** Place of the function that it looks at closer, where it was loaded so. */
  closer: string().max(1000).optional(),
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

const about = { targetId: id(), recordingId: id() };

const COMMANDS = {
  start: object({
    type: typeName('start'),
    ...about,
    /** Whether typed words may be kept; a page that came from the browser's cache may remember otherwise. */
    words: boolean(),
    /** Whether controls are named by their visible text. */
    byText: boolean(),
  }),
  'start-with-next-load': object({ type: typeName('start-with-next-load'), ...about }),
  pause: object({ type: typeName('pause'), ...about }),
  'go-on': object({ type: typeName('go-on'), ...about }),
  stop: object({ type: typeName('stop'), ...about }),
  /** Asks for all batches again that were not acknowledged. */
  follow: object({ type: typeName('follow'), ...about }),
  /** All batches up to this one are kept safe. */
  acknowledge: object({
    type: typeName('acknowledge'),
    ...about,
    sequence: number().integer().min(0).required(),
  }),
  note: object({ type: typeName('note'), ...about, text: string().max(200).defined() }),
  reload: object({ type: typeName('reload'), ...about }),
};

/** From the interface to one target; the server passes it on. */
export type Command = {
  [Name in keyof typeof COMMANDS]: InferType<(typeof COMMANDS)[Name]>;
}[keyof typeof COMMANDS];

const helloSchema = object({
  type: typeName('hello'),
  /** The version of the protocol it speaks; the first, where it says none. */
  protocol: number().integer().min(1),
  target: targetSchema.required(),
});
/** From a target to the server: it introduces itself, and again whenever something of it changes. */
export type Hello = InferType<typeof helloSchema>;

const batchSchema = object({
  type: typeName('rows'),
  ...about,
  sequence: number().integer().min(0).required(),
  /** The recording has ended with this batch. */
  last: boolean().default(false),
});
/** First line of a frame of rows; the rows follow it, one a line. */
export type Batch = InferType<typeof batchSchema>;

/** A frame of rows, taken apart. */
export interface BatchFrame {
  readonly type: 'rows';
  readonly batch: Batch;
  /** Lines of the recording, each with its line end. */
  readonly lines: string;
}

const listedTargetSchema = targetSchema.shape({
  /** The device of the room it runs on; null on the computer of the server. */
  visitor: string().nullable().defined(),
});
/** A target as the interface is told of it. */
export type ListedTarget = InferType<typeof listedTargetSchema>;

const SERVER_MESSAGES = {
  targets: object({
    type: typeName('targets'),
    targets: array(listedTargetSchema.required()).required(),
    apps: array(servedAppSchema.required()).required(),
  }),
  'target-left': object({
    type: typeName('target-left'),
    targetId: id(),
    recordingId: string().nullable().defined(),
  }),
};
/** From the server to the interface, beside frames of rows. */
export type ServerMessage = {
  [Name in keyof typeof SERVER_MESSAGES]: InferType<(typeof SERVER_MESSAGES)[Name]>;
}[keyof typeof SERVER_MESSAGES];

/** @throws ProtocolError where it is no command */
export function parseCommand(text: string): Command {
  return ofTypes(text, COMMANDS);
}

function readHello(value: unknown): Hello {
  const version = (value as { protocol?: unknown } | null)?.protocol;
  if (typeof version === 'number' && version > PROTOCOL_VERSION)
    throw new ProtocolError(
      `it speaks version ${version} of the protocol, and this program versions up to ${PROTOCOL_VERSION}: use a newer Nettle Patch`,
    );
  return checked(value, helloSchema);
}

/** The value on the first line of a frame, or that of all of it where the line alone is none; and what follows. */
function firstLine(frame: string): { value: unknown; rest: string | undefined } {
  const end = frame.indexOf('\n');
  if (end < 0) return { value: fromJson(frame), rest: undefined };
  try {
    return { value: JSON.parse(frame.slice(0, end)), rest: frame.slice(end + 1) };
  } catch {
    return { value: fromJson(frame), rest: undefined };
  }
}

function readFrame(value: unknown, rest: string | undefined): BatchFrame {
  const batch = checked(value, batchSchema);
  if (rest === undefined) throw new ProtocolError('a frame of rows has no line end after its envelope');
  return { type: 'rows', batch, lines: rest };
}

/** @throws ProtocolError where it is no frame of rows */
export function readBatch(frame: string): BatchFrame {
  const { value, rest } = firstLine(frame);
  return readFrame(value, rest);
}

/**
 * What a target says: a hello, or rows.
 * @throws ProtocolError where it is neither, or of a later version of the protocol
 */
export function parseTargetMessage(frame: string): Hello | BatchFrame {
  const { value, rest } = firstLine(frame);
  return typeOf(value) === 'rows' ? readFrame(value, rest) : readHello(value);
}

/**
 * What the server says to an interface: a message, or rows that it passes on.
 * @throws ProtocolError where it is neither
 */
export function parseServerMessage(frame: string): ServerMessage | BatchFrame {
  const { value, rest } = firstLine(frame);
  return typeOf(value) === 'rows' ? readFrame(value, rest) : ofType(value, SERVER_MESSAGES);
}
