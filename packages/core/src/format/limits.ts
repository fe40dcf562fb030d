/** Bounds on what is read of a file or a stream, so that no input takes memory or time without end. */

/** Bytes of lines, uncompressed, that are read of one recording; what comes after is left out, and said to be. */
export const MAX_RECORDING_BYTES = 512 * 1024 * 1024;
/** Calls and samples that are read of one recording: packed, a few bytes hold one, and packed again, thousands. */
export const MAX_CALLS = 8_000_000;
export const MAX_SAMPLES = 10_000_000;
/** Lines that say nothing, after which the rest is left out. */
export const MAX_EMPTY_LINES = 1_000_000;
/** Lines of kinds this version does not know that are kept, and their length in all. UTF-16 units. */
export const MAX_UNKNOWN_LINES = 20_000;
export const MAX_UNKNOWN_LENGTH = 16 * 1024 * 1024;
/** Steps that a file of them may hold, and how often they can be taken in one recording. */
export const MAX_STEPS = 10_000;
export const MAX_ROUNDS = 1000;
/** Ranges of a recording that can be marked as ones in which nothing should change. */
export const MAX_QUIET = 50;
