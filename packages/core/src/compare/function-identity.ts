import { appendTo } from '../recording/group';
import { displayName, type RecordedFunction } from '../recording/functions';
import type { Recording } from '../recording/recording';

/** What two recordings call the same function by: its file and name, whatever line it stands on now. */
function nameKey(recording: Recording, recorded: RecordedFunction | undefined): string {
  const source = recorded?.source === undefined ? undefined : recording.sources.get(recorded.source);
  const file = recorded?.originalFile ?? (source && new URL(source.url, 'http://unknown/').pathname) ?? '';
  return `${file} ${displayName(recorded)} ${recorded?.activity ?? ''}`;
}

/**
 * Keys of functions that are the same in two recordings of two versions of an app. Functions of the same name in one
 * file are told apart by their order in it, so that lines may have moved.
 * @param functionIds canonical ids
 */
export function functionKeys(recording: Recording, functionIds: readonly number[]): Map<number, string> {
  const byName = new Map<string, number[]>();
  for (const id of functionIds) {
    appendTo(byName, nameKey(recording, recording.functions.get(id)), id);
  }
  const keys = new Map<number, string>();
  const lineOf = (id: number) => {
    const recorded = recording.functions.get(id);
    return recorded?.originalLine ?? recorded?.line ?? 0;
  };
  const columnOf = (id: number) => {
    const recorded = recording.functions.get(id);
    return recorded?.originalColumn ?? recorded?.column ?? 0;
  };
  for (const [name, ids] of byName) {
    ids
      .sort((a, b) => lineOf(a) - lineOf(b) || columnOf(a) - columnOf(b) || a - b)
      .forEach((id, index) => keys.set(id, `${name} ${index}`));
  }
  return keys;
}
