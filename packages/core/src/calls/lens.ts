import { array, boolean, number, object, type InferType } from 'yup';
import { MAIN_THREAD, type Recording, type TimeRange } from '../recording/recording';
import { first } from '../lists/items';

/** What all views of calls obey. Times are milliseconds. */
export const lensSchema = object({
  /** From when to when; absent for the whole recording. */
  range: array(number().required()).length(2).optional(),
  thread: number().integer().min(0).default(MAIN_THREAD),
  /** Charge the time of libraries to the own function that called them. */
  foldLibraries: boolean().default(false),
  /** Take a function that calls itself, directly or through others, for one call. */
  foldRecursion: boolean().default(false),
  /** Leave out calls shorter than this, and charge their time to what called them. */
  minMs: number().min(0).default(0),
  /** Only what these functions called, and their own time; all where there is none. */
  focus: array(number().integer().required()).default([]),
});

export type Lens = InferType<typeof lensSchema>;

export const WIDE_LENS: Lens = lensSchema.getDefault();

/** The range a lens shows. */
export function lensRange(recording: Recording, { range }: Pick<Lens, 'range'>): TimeRange {
  if (range === undefined) return recording.range;
  const [startMs, endMs] = [first(range), range[1]!];
  return {
    startMs: Math.max(startMs, recording.range.startMs),
    endMs: Math.min(endMs, recording.range.endMs),
  };
}
