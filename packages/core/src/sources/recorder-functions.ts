import { ABSENT_WHOLE } from '../recording/column';
import type { RecordedFunction } from '../recording/functions';
import { oncePerRecording } from '../recording/once';
import type { Recording } from '../recording/recording';
import type { Source } from '../recording/sources';
import { RESERVED_PATH } from '../relay/paths';

/** Whether a script is the recorder's own. */
export function isRecorderSource(source: Source | undefined): boolean {
  return source?.url.includes(RESERVED_PATH) ?? false;
}

/** Whether a function is the recorder's own: what it takes is charged to it, and is none of the app's stings. */
export function isRecorderFunction(recording: Recording, functionId: number): boolean {
  const source = recording.functions.get(functionId)?.source;
  return source !== undefined && isRecorderSource(recording.sources.get(source));
}

/** Tells whether an entry into script, by its index, was into the recorder: by its function, or the script's address. */
export const recorderEntries = oncePerRecording((recording) => {
  const { handler } = recording.events;
  const { function: entries, invoker } = handler.columns;
  const known = new Map<number, boolean>();
  const isOfRecorder = (textId: number, at: number): boolean => {
    let is = known.get(textId);
    if (is === undefined) known.set(textId, (is = handler.value('invoker', at)!.includes(RESERVED_PATH)));
    return is;
  };
  return (at: number): boolean =>
    entries[at] === ABSENT_WHOLE
      ? isOfRecorder(invoker[at]!, at)
      : isRecorderFunction(recording, entries[at]!);
});

/** The recorder's own functions go by one name. */
export function asRecorder(recorded: RecordedFunction): RecordedFunction {
  return {
    ...recorded,
    originalName: 'Nettle Patch recorder',
    originalFile: 'recorder.js',
    owner: 'library',
  };
}
