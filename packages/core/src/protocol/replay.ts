import { array, number, object, string, type InferType } from 'yup';
import { ofTypes, typeName } from './discriminated';

const browserSchema = object({
  name: string().required(),
  /** What is to be installed before it can take steps; null when nothing is. */
  missing: string().nullable().defined(),
});
/** A browser that can take steps. */
export type ReplayBrowser = InferType<typeof browserSchema>;

export const replayBrowsersSchema = array(browserSchema.required()).required();

const EVENTS = {
  began: object({ type: typeName('began') }),
  round: object({ type: typeName('round'), done: number().required(), of: number().required() }),
  /** The lines of the recording follow; `failure` says why not all steps were taken. */
  recording: object({ type: typeName('recording'), failure: string() }),
  failed: object({ type: typeName('failed'), reason: string().defined() }),
};
/** What the server tells while steps are taken again. */
export type ReplayEvent = {
  [Name in keyof typeof EVENTS]: InferType<(typeof EVENTS)[Name]>;
}[keyof typeof EVENTS];

/** @throws ProtocolError where it is none */
export function parseReplayEvent(line: string): ReplayEvent {
  return ofTypes(line, EVENTS);
}
