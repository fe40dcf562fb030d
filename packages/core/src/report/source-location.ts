import { displayName, ownerOf, type Owner } from '../recording/functions';
import type { Recording } from '../recording/recording';

/** A function as reports name it; file, line and column are of the original source where it is known. */
export interface ReportedFunction {
  readonly name: string;
  readonly file: string | null;
  readonly line: number | null;
  readonly column: number | null;
  readonly owner: Owner;
}

export function reportedFunction(recording: Recording, functionId: number): ReportedFunction {
  const recorded = recording.functions.get(functionId);
  const isResolved = recorded?.originalFile !== undefined;
  const source = recorded?.source === undefined ? undefined : recording.sources.get(recorded.source);
  return {
    name: displayName(recorded),
    file: recorded?.originalFile ?? source?.url ?? null,
    line: (isResolved ? recorded.originalLine : recorded?.line) ?? null,
    column: (isResolved ? recorded.originalColumn : recorded?.column) ?? null,
    owner: ownerOf(recorded),
  };
}

/** The place of a reported function as people write it: "src/deck/trim.ts:41"; empty where it is not known. */
export function placeText({ file, line }: Pick<ReportedFunction, 'file' | 'line'>): string {
  if (file === null) return '';
  return line === null ? file : `${file}:${line}`;
}
