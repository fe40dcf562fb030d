import type { RecordingSession } from '../session';

/** One kind of thing that can be captured. Each lives in a module of its own. */
export interface Capture {
  /** Name of the standard source, as the header of a recording lists it. */
  readonly name: string;
  /** Whether this engine, and this page, have the source. */
  readonly available: boolean;
  /** Whether it is started all the same, as others write through it. */
  readonly always?: boolean;
  /** Begins to write into a session. */
  start(session: RecordingSession): void;
  /** Brings what has been collected so far into the session. Called several times a second. */
  collect?(): void;
  /**
   * Ends; what is still on its way is brought into the session.
   * @param leaving whether the page is being left, so that nothing can come later
   */
  stop(leaving?: boolean): void | Promise<void>;
}
