/** What could be fetched of one script. */
export interface ScriptText {
  readonly url: string;
  readonly text?: string;
  /** Source map as JSON text (ECMA-426). */
  readonly map?: string;
  readonly mapUrl?: string;
  /** Why the text or the map is missing. */
  readonly problem?: string;
}
