/** Ids from here on are those of pages that go on with a recording. */
const FIRST_LATER_ID = 2 ** 27;
const IDS_A_PAGE = 2 ** 22;
/** Of a page's ids: its own tables come first, then stacks of hangs, then what was sampled. */
const FIRST_HANG_STACK = 2 ** 20;
const FIRST_SAMPLED = 2 ** 21;

/** Pages that go on with one recording, at most. */
export const MAX_PAGES = 400;
/** Workers of one page have their numbers apart from those of another. */
export const THREADS_A_PAGE = 64;

/** The least id that a page gives. @param page how many came before it in the recording */
export function firstIdOf(page: number): number {
  return page && FIRST_LATER_ID + page * IDS_A_PAGE;
}

export const firstHangStackOf = (page: number) => firstIdOf(page) + FIRST_HANG_STACK;
export const firstSampledIdOf = (page: number) => firstIdOf(page) + FIRST_SAMPLED;
