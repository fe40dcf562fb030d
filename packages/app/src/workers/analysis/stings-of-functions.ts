import { WIDE_LENS, occurrencesOf, type Occurrences, type Recording, type Sting } from '@nettle-patch/core';

/** Places of the stings during which one of some functions ran. */
export function stingsOfFunctions(
  recording: Recording,
  stings: readonly Sting[],
  functionIds: readonly number[],
): number[] {
  const byThread = new Map<number, readonly Occurrences[]>();
  const occurrences = (thread: number) => {
    let known = byThread.get(thread);
    if (known === undefined) {
      known = functionIds.map((functionId) => occurrencesOf(recording, { ...WIDE_LENS, thread }, functionId));
      byThread.set(thread, known);
    }
    return known;
  };
  return stings.flatMap(({ thread, startMs, endMs }, place) => {
    const ran = occurrences(thread).some(({ startsMs, lengthsMs }) =>
      startsMs.some((callMs, at) => callMs < endMs && callMs + lengthsMs[at]! > startMs),
    );
    return ran ? [place] : [];
  });
}
