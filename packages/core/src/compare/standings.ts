/** How one of several stands among the others. */
export type Standing = 'best' | 'worst' | undefined;

/** That one of several is firmly quicker than another, by their places. */
export interface FirmPair {
  readonly quicker: number;
  readonly slower: number;
}

/**
 * How each of some stands: `best` is firmly quicker than at least one other and slower than none, `worst` the reverse.
 * Several can be either.
 */
export function standingsOf(count: number, pairs: readonly FirmPair[]): Standing[] {
  return Array.from({ length: count }, (_, at): Standing => {
    const isQuicker = pairs.some(({ quicker }) => quicker === at);
    const isSlower = pairs.some(({ slower }) => slower === at);
    if (isQuicker === isSlower) return undefined;
    return isQuicker ? 'best' : 'worst';
  });
}
