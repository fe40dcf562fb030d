/**
 * Ids of a recording's tables come from several hands that know nothing of each other: each page that goes on with it, its
 * workers, and the tool itself. So each has a range of its own, below the largest whole number of the format (2³¹ − 1).
 */

/** Pages that go on with one recording, at most. */
export const MAX_PAGES = 400;
/** Threads of one page have their numbers apart from those of another. */
export const THREADS_A_PAGE = 64;

const FIRST_UNINSTRUMENTED = 2 ** 24;
const FIRST_LATER_PAGE = 2 ** 27;
const IDS_A_PAGE = 2 ** 21;
/** Of a page's ids: its own tables come first, then stacks of hangs, then what was sampled. */
const FIRST_HANG_STACK = 2 ** 19;
const FIRST_SAMPLED = 2 ** 20;
const FIRST_WORKER = 2 ** 30;
const IDS_A_WORKER = 2 ** 15;

/** The least id that a page gives. @param page how many came before it in the recording */
export function firstIdOf(page: number): number {
  return page && FIRST_LATER_PAGE + page * IDS_A_PAGE;
}

/** Ids of the stacks of a page's hangs, from here on. */
export function firstHangStackOf(page: number): number {
  return firstIdOf(page) + FIRST_HANG_STACK;
}

/** Ids of what was sampled in a page, from here on. */
export function firstSampledIdOf(page: number): number {
  return firstIdOf(page) + FIRST_SAMPLED;
}

/** The least id that a worker gives, or a frame that is a part of its page. @param thread its number */
export function firstIdOfThread(thread: number): number {
  return FIRST_WORKER + thread * IDS_A_WORKER;
}

/** Ids of scripts that were not rewritten, from here on. */
export function firstUninstrumentedId(): number {
  return FIRST_UNINSTRUMENTED;
}
