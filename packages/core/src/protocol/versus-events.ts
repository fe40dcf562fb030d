import { array, number, object, string, type InferType } from 'yup';
import { ofTypes, typeName } from './discriminated';

/** What came of two addresses that were held against each other, ready to be shown and passed on. */
const outcomeSchema = {
  /** Addresses: A and B. */
  before: string().required(),
  after: string().required(),
  /** How it was done. */
  words: string().required(),
  /** Each thing that was done: what, A, B, verdict on B, difference. */
  rows: array(array(string().defined()).required()).required(),
  /** How many of them are slower in B. */
  slower: number().integer().required(),
  markdown: string().required(),
  page: string().required(),
  picture: string().required(),
  /** The load of each side whose values lie nearest to the medians: a recording file, compressed, as base64. */
  typical: object({ before: string().required(), after: string().required() }).required(),
};

const EVENTS = {
  began: object({ type: typeName('began') }),
  /** A load is being made. `leftMs` is how long the rest takes at most, once one has been made. */
  load: object({
    type: typeName('load'),
    side: string().oneOf(['before', 'after']).required(),
    round: number().integer().required(),
    of: number().integer().required(),
    leftMs: number(),
  }),
  outcome: object({ type: typeName('outcome'), ...outcomeSchema }),
  failed: object({ type: typeName('failed'), reason: string().defined() }),
};

/** What the server tells while two addresses are held against each other. */
export type VersusEvent = {
  [Name in keyof typeof EVENTS]: InferType<(typeof EVENTS)[Name]>;
}[keyof typeof EVENTS];

export type VersusOutcome = Omit<InferType<(typeof EVENTS)['outcome']>, 'type'>;

/** @throws ProtocolError where it is none */
export function parseVersusEvent(line: string): VersusEvent {
  return ofTypes(line, EVENTS);
}
