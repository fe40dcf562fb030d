import { array, boolean, number, object, string, type InferType } from 'yup';
import { ProtocolError, checked } from './discriminated';

const closedSchema = object({
  open: boolean<false>().oneOf([false]).required(),
  /** Addresses of this computer that others may reach. */
  addresses: array(string().required()).required(),
});

const openSchema = object({
  open: boolean<true>().oneOf([true]).required(),
  /** Origin of the server of the app that is opened there. */
  app: string().required(),
  /** Where the app is opened. */
  origin: string().required(),
  /** The address with its code, to be scanned. */
  joinUrl: string().required(),
  code: string().required(),
  /** When the code ceases to hold, in milliseconds since the epoch. */
  untilMs: number().required(),
  devices: array(
    object({
      id: string().required(),
      address: string().required(),
      joinedAt: string().required(),
    }).required(),
  ).required(),
});

/** Whether devices of the room may join, where, and which have. */
export type LanState = InferType<typeof closedSchema> | InferType<typeof openSchema>;

/** @throws ProtocolError where it is none */
export function readLanState(value: unknown): LanState {
  if (typeof value !== 'object' || value === null)
    throw new ProtocolError('the state of the room is no object');
  return 'open' in value && value.open === true ? checked(value, openSchema) : checked(value, closedSchema);
}
