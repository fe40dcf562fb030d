import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import type { Recording } from '../recording/recording';
import { functionPart, percent, text, type BecausePart } from './sentence';

/** " Most of that went to standingFor.", where one function below it takes most of what it takes. */
export function mostBelow(recording: Recording, thread: number, functionId: number): BecausePart[] {
  const table = functionTable(recording, { ...WIDE_LENS, thread, foldLibraries: true, focus: [functionId] });
  const allMs = table.reduce((sum, { selfMs }) => sum + selfMs, 0);
  const [first] = table.filter((row) => row.functionId !== functionId && row.owner === 'own');
  if (first === undefined || first.selfMs < allMs / 3) return [];
  const known = first.count > 0 ? '' : 'By samples ';
  const share = percent(first.selfMs / allMs);
  return [text(` ${known}${share} of that went to `), functionPart(recording, first.functionId), text('.')];
}
