/** Global names that a rewritten script uses, which the recorder provides. No other program has names like these. */

/** Exact calls: functions that tell of the beginning of one, by the id of its function, and of its end. */
export const ENTER = '__np_e';
export const LEAVE = '__np_x';
/** The same as LEAVE; its other name tells the end of a body that was an expression. */
export const LEAVE_EXPRESSION = '__np_y';
/** Takes what a script tells of its functions when it begins to run. */
export const REGISTER = '__np_r';

/**
 * Fine mode, the calls that are open: an Int32Array. Its first entry is their number, and from the second on there is for
 * each, the outermost first, the id of where it stands: of its function, or of a line in it. The last entry is what is
 * left to do until the next look at the clock.
 */
export const OPEN_CALLS = '__np_a';
/** Calls of each function, and calls still to pass without a look for each line that calls: an Int32Array. */
export const COUNTS = '__np_n';
/** Whether looks are taken at all: true or false for as long as a page lasts, so that engines leave out what is not wanted. */
export const LOOKS_TAKEN = '__np_k';
/** Looks at the clock, behind a loop with its lines (see `lineReached`); the second at a line that may call out of rewritten code, by its id. */
export const LOOK = '__np_l';
export const LOOK_AT_CALL = '__np_w';
/** Called when no call is open any more. */
export const LEAVE_ROOT = '__np_o';
export const LEAVE_ROOT_EXPRESSION = '__np_p';
/** Enters a function, by its id, and gives how deep it is; the second goes on with one, by its id and position. */
export const ENTER_FINE = '__np_g';
export const ENTER_AGAIN = '__np_b';
/** Leave functions that can wait, and all where one is looked at closer, and give 0. */
export const LEAVE_WAITING = '__np_h';
export const LEAVE_WAITING_EXPRESSION = '__np_j';
/** Are never evaluated. Several, so that one can be told from the other where they are taken out again. */
export const NEVER = '__np_z';
export const NEVER_ARGUMENT = '__np_v';
export const NEVER_OPERAND = '__np_u';

/** In a worker: a constant around its recorder, the place of the function that is looked at closer. */
export const CLOSER_PLACE = '__np_c';

/** Length of the open calls; those nested deeper are not seen. */
export const OPEN_CALLS_LENGTH = 2 ** 16;
/** Where what is left until the next look stands among them. */
export const LOOK_COUNTDOWN = OPEN_CALLS_LENGTH - 1;

/** Length of the counts, a power of two. Ids that differ by a multiple of it share one; no page has so many functions and lines. */
export const COUNT_SLOTS = 2 ** 20;

/** Index among the counts of an id: these bits of it. */
export const SLOT_BITS = COUNT_SLOTS - 1;
export const slotOf = (id: number): number => id & SLOT_BITS;
