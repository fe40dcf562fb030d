import { object, string, type InferType } from 'yup';

/** What could be fetched of one script. */
export const scriptTextSchema = object({
  url: string().defined(),
  text: string(),
  /** Source map as JSON text (ECMA-426). */
  map: string(),
  mapUrl: string(),
  /** Why the text or the map is missing. */
  problem: string(),
});
export type ScriptText = InferType<typeof scriptTextSchema>;
