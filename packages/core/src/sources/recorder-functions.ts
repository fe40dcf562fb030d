import type { RowContent } from '../format/rows';
import type { RecordedFunction } from '../recording/functions';
import type { Recording } from '../recording/recording';
import type { Source } from '../recording/sources';
import { RESERVED_PATH } from '../protocol/paths';

/** Whether a script is the recorder's own. */
export function isRecorderSource(source: Source | undefined): boolean {
  return source?.url.includes(RESERVED_PATH) ?? false;
}

/** Whether a function is the recorder's own: what it takes is charged to it, and is none of the app's stings. */
export function isRecorderFunction(recording: Recording, functionId: number): boolean {
  const source = recording.functions.get(functionId)?.source;
  return source !== undefined && isRecorderSource(recording.sources.get(source));
}

/** Tells whether an entry into script was into the recorder: by its function, or by the address of the script. */
export const recorderEntries =
  (recording: Recording) =>
  ({ function: entered, invoker }: Pick<RowContent<'handler'>, 'function' | 'invoker'>): boolean =>
    entered === undefined ? invoker.includes(RESERVED_PATH) : isRecorderFunction(recording, entered);

/** The recorder's own functions go by one name. */
export function asRecorder(recorded: RecordedFunction): RecordedFunction {
  return {
    ...recorded,
    originalName: 'Nettle Patch recorder',
    originalFile: 'recorder.js',
    owner: 'library',
  };
}
