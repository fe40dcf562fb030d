/** With exact calls, which functions are too quick to be timed: they are counted, and their time is that of their callers. */

/** A call that takes less than so many readings of the clock is quick: recording it, by two of them, would cost a quarter of it or more. */
export const QUICK_READINGS = 8;
/** Calls by which it is judged how quick a function is. */
export const JUDGED_BY = 256;
/** Of quick functions every so many calls are timed, and judged by so many that were: they may become slow. */
export const TIMED_EVERY = 64;
export const JUDGED_AGAIN_BY = 16;
