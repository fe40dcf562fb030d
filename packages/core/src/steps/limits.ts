/** Steps that a file of them may hold. */
export const MOST_STEPS = 10_000;
/** How often they can be taken in one recording. */
export const MOST_ROUNDS = 1000;
