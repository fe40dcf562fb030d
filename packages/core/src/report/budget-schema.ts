import { array, number, object, string, type InferType } from 'yup';

const named = { label: string().min(1).max(500).required() };

/** The budget of `nettle-patch check`: every field may be left out. */
export const budgetSchema = object({
  /** Slowest response allowed, in milliseconds: for one label, or for all that have none of their own ("*"). */
  responses: array(object({ ...named, ms: number().min(0).required() }).noUnknown()).default([]),
  /** The same for the last change on the screen that an input set going. */
  outcomes: array(object({ ...named, ms: number().min(0).required() }).noUnknown()),
  /** Time in long tasks, all together. Milliseconds. */
  longTaskMs: number().min(0),
  /** How often layout may be forced. */
  forcedLayouts: number().integer().min(0),
  /** Calls a second allowed, by the name of the function. */
  callsASecond: array(
    object({ name: string().min(1).required(), calls: number().min(0).required() }).noUnknown(),
  ).default([]),
  /** How often a second an element may be written to: by its label, or the most of any ("*"). */
  redrawsASecond: array(
    object({ element: string().min(1).max(500).required(), redraws: number().min(0).required() }).noUnknown(),
  ),
  /** What may go on in each range in which nothing should change. */
  quiet: object({
    redraws: number().integer().min(0),
    scriptMs: number().min(0),
    requests: number().integer().min(0),
  })
    .noUnknown()
    .default(undefined)
    .optional(),
  /** Share of the time that may go to idle work, 0 to 1. */
  idleShare: number().min(0).max(1),
}).noUnknown();

export type Budget = InferType<typeof budgetSchema>;
