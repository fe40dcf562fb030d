/** How long the next page of a tab may take to go on with a recording; else its page was closed. */
export const BETWEEN_PAGES_MS = 4000;
/** How long a batch that is missing between others is waited for. */
export const MISSING_BATCH_MS = 2000;
