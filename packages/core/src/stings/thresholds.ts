import { number, object, type InferType } from 'yup';

export const thresholdsSchema = object({
  /** Longest good response to an input (Interaction to Next Paint: good up to 200 ms). */
  responseMs: number().min(1).max(60_000).default(200),
  /** Longest good task (Long Tasks API, section 1: 50 ms). */
  longTaskMs: number().min(1).max(60_000).default(50),
  /** A task from this length on is a hang. */
  hangMs: number().min(1).max(600_000).default(250),
});

/** The budgets a recording is held against, in milliseconds. */
export type Thresholds = InferType<typeof thresholdsSchema>;

export const DEFAULT_THRESHOLDS: Thresholds = thresholdsSchema.getDefault();
