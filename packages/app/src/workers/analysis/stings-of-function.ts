import { WIDE_LENS, occurrencesOf, type Occurrences, type Recording, type Sting } from '@nettle-patch/core';

/** Places of the stings during which a function ran. */
export function stingsOfFunction(
  recording: Recording,
  stings: readonly Sting[],
  functionId: number,
): number[] {
  const byThread = new Map<number, Occurrences>();
  const occurrences = (thread: number) => {
    let known = byThread.get(thread);
    if (known === undefined)
      byThread.set(thread, (known = occurrencesOf(recording, { ...WIDE_LENS, thread }, functionId)));
    return known;
  };
  return stings.flatMap(({ thread, startMs, endMs }, place) => {
    const { startsMs, lengthsMs } = occurrences(thread);
    const ran = startsMs.some((callMs, at) => callMs < endMs && callMs + lengthsMs[at]! > startMs);
    return ran ? [place] : [];
  });
}
