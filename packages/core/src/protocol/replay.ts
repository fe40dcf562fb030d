/** A browser that can take steps, and what is to be installed before it can; null when nothing is. */
export interface ReplayBrowser {
  readonly name: string;
  readonly missing: string | null;
}

/** What the server tells while steps are taken again. */
export type ReplayEvent =
  | { readonly type: 'began' }
  | { readonly type: 'round'; readonly done: number; readonly of: number }
  /** The lines of the recording follow. @param failure why not all steps were taken */
  | { readonly type: 'recording'; readonly failure?: string }
  | { readonly type: 'failed'; readonly reason: string };
