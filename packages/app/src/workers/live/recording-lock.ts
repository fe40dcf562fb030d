/** The page that was here before may still be ending when the tool is loaded again. */
const TRIES = 6;
const TRY_EVERY_MS = 200;

const nameOf = (recordingId: string) => `nettle-patch recording ${recordingId}`;

/** Asks for a lock (W3C Web Locks). @returns what gives it up; undefined where another holds it and none is to be waited for */
function ask(recordingId: string, options: LockOptions): Promise<(() => void) | undefined> {
  return new Promise((resolve, reject) => {
    navigator.locks
      .request(nameOf(recordingId), options, (lock) => {
        if (lock === null) return resolve(undefined);
        return new Promise<void>((release) => resolve(release));
      })
      .catch(reject);
  });
}

/**
 * Takes the right to write a recording, which one tab of the tool has at a time.
 * @returns what gives it up; undefined where another tab has it
 */
export async function takeRecording(recordingId: string): Promise<(() => void) | undefined> {
  for (let left = TRIES; left > 0; left--) {
    const release = await ask(recordingId, { ifAvailable: true });
    if (release !== undefined) return release;
    await new Promise((resolve) => setTimeout(resolve, TRY_EVERY_MS));
  }
  return undefined;
}

/** Waits until no other tab writes a recording. */
export async function untilFree(recordingId: string): Promise<void> {
  (await ask(recordingId, {}))?.();
}
