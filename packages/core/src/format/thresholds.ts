import { number, object, type InferType, type NumberSchema } from 'yup';

export const thresholdsSchema = object({
  /** Longest good response to an input (Interaction to Next Paint: good up to 200 ms). */
  responseMs: number().min(1).max(60_000).default(200),
  /** Longest good time until the last change on the screen that an input set going. */
  outcomeMs: number().min(1).max(60_000).default(1000),
  /** Longest good task (Long Tasks API, section 1: 50 ms). */
  longTaskMs: number().min(1).max(60_000).default(50),
  /** A task from this length on is a hang. */
  hangMs: number().min(1).max(600_000).default(250),
  /** Frames that must be missed in a row of late frames. */
  missedFrames: number().integer().min(1).max(1000).default(6),
  /** How often layout is forced at one place in one task before it counts, and what that must have cost. */
  forcedTimes: number().integer().min(1).max(1_000_000).default(10),
  forcedMs: number().min(0).max(60_000).default(8),
  /** Milliseconds of a second that may be spent on what changes nothing. */
  idleMsASecond: number().min(1).max(1000).default(20),
  /** Milliseconds of a second by which a cost may grow over a recording. */
  creepMsASecond: number().min(1).max(1000).default(5),
  /** Calls of one function in one task before it counts, if they take longer than a frame. */
  callsATask: number().integer().min(2).max(1_000_000_000).default(2000),
});

/** The budgets a recording is held against, in milliseconds. */
export type Thresholds = InferType<typeof thresholdsSchema>;

export const DEFAULT_THRESHOLDS: Thresholds = thresholdsSchema.getDefault();

/** Some of the thresholds, each as it must be. */
export const partialThresholds = object(
  Object.fromEntries(
    Object.entries(thresholdsSchema.fields).map(([name, field]) => [
      name,
      (field as NumberSchema).optional().default(undefined),
    ]),
  ),
).noUnknown();

/**
 * The thresholds that hold for a recording: those given now, else those it was stored with, else the usual ones.
 * @throws ValidationError naming the one that makes no sense
 */
export function thresholdsOf(
  header: { readonly thresholds?: object | undefined },
  given: object = {},
): Thresholds {
  partialThresholds.validateSync(given, { strict: true });
  return thresholdsSchema.validateSync({ ...header.thresholds, ...given });
}
