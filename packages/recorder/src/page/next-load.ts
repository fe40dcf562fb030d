const KEY = 'nettle-patch-next-load';

/** Has the next page load of this tab begin a recording with its first script. */
export function armNextLoad(recordingId: string): void {
  try {
    sessionStorage.setItem(KEY, recordingId);
  } catch {
    return;
  }
}

/** The recording that this page load is to begin, if one was asked for. Frames of the page share its storage. */
export function takeArmedRecording(): string | undefined {
  if (top !== self) return undefined;
  try {
    const recordingId = sessionStorage.getItem(KEY) ?? undefined;
    sessionStorage.removeItem(KEY);
    return recordingId;
  } catch {
    return undefined;
  }
}
