import { array, object, string, type InferType } from 'yup';

export const servedAppSchema = object({
  /** Origin of the app's own server. */
  target: string().required(),
  /** Address at which it is opened to be recorded. */
  url: string().required(),
});
/** An app the tool stands in front of. */
export type ServedApp = InferType<typeof servedAppSchema>;

const foundAppSchema = object({
  /** Its origin, by the name people type. */
  origin: string().required(),
  /** What its first page calls itself; empty where it does not. */
  title: string().defined(),
});
/** An app that answers on this computer. */
export type FoundApp = InferType<typeof foundAppSchema>;

export const foundAppsSchema = array(foundAppSchema.required()).required();
