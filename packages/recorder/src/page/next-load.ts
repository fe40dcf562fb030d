const KEY = 'nettle-patch-next-load';
/** A page that comes later than this after the one before is not what that one led to. */
const LATEST_MS = 20_000;

/** A recording that the next page of this tab is to begin, or to go on with. */
export type Armed = readonly [
  recordingId: string,
  /** When the page before was left, in milliseconds since the epoch. */
  leftMs?: number | undefined,
  /** Time 0 of the recording, in milliseconds since the epoch. */
  originEpochMs?: number,
  /** Number of the next batch. */
  sequence?: number,
  /** How many pages came before. */
  page?: number,
  /** Whether typed words may be kept. */
  words?: boolean | undefined,
  paused?: boolean,
  /** Whether controls are named by their visible text. */
  byText?: boolean,
];

/** Has the next page load of this tab begin a recording with its first script, or go on with one. */
export function armNextLoad(...armed: Armed): void {
  try {
    sessionStorage.setItem(KEY, JSON.stringify(armed));
  } catch {
    return;
  }
}

/** The recording that this page is to begin or to go on with, if there is one. Frames of the page share its storage. */
export function takeArmedRecording(): Armed | undefined {
  if (top !== self) return undefined;
  try {
    const armed = JSON.parse(sessionStorage.getItem(KEY)!) as Armed | null;
    sessionStorage.removeItem(KEY);
    return armed === null || Date.now() - armed[1]! > LATEST_MS ? undefined : armed;
  } catch {
    return undefined;
  }
}
