/** With exact calls, of which functions only some calls are timed, as the clock would take longer than they do. */

/**
 * A function is quick that takes less than so many readings of the clock: to time a call takes two, and more than it.
 */
export const QUICK_READINGS = 1;
/** Calls by which it is judged how quick a function is. */
export const JUDGED_BY = 256;
/** Of quick functions every so many calls are timed, and judged by so many that were: they may become slow. */
export const TIMED_EVERY = 64;
export const JUDGED_AGAIN_BY = 64;

/** Added to the id of a function, stands for those of its calls that were timed as one of so many. */
export const ONE_OF_MANY = 2 ** 30;
