/** An app the tool stands in front of. */
export interface ServedApp {
  /** Origin of the app's own server. */
  readonly target: string;
  /** Address at which it is opened to be recorded. */
  readonly url: string;
}

/** An app that answers on this computer. */
export interface FoundApp {
  /** Its origin, by the name people type. */
  readonly origin: string;
  /** What its first page calls itself; empty where it does not. */
  readonly title: string;
}
