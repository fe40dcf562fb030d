import { array, object, string, type InferType } from 'yup';
import { firstUninstrumentedId } from '../format/id-ranges';
import type { RowOfKind } from '../format/rows';

const scriptSchema = object({ url: string().defined(), problem: string().defined() });
/** A script that was not rewritten in exact mode, and why. */
export type Uninstrumented = InferType<typeof scriptSchema>;

export const uninstrumentedSchema = array(scriptSchema.required()).required();

/** Rows that name the scripts whose calls an exact recording does not hold. */
export function uninstrumentedRows(scripts: readonly Uninstrumented[]): RowOfKind<'source'>[] {
  return scripts.map(({ url, problem }, index) => ({
    kind: 'source',
    id: firstUninstrumentedId() + index,
    url,
    problem,
  }));
}
