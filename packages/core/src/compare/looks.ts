import { smallestChance } from '../statistics/rank-test';
import { medianChangeMs, type ComparedSeries } from './compare-series';
import { LEVEL } from '../statistics/level';
import { shuffle } from '../statistics/shuffle';

/** What is looked at before its end is looked at after this share of the rounds, */
const EARLY_SHARE = 0.75;
/** and at this error rate, so that the last look has nearly all of it. */
const EARLY_LEVEL = LEVEL / 5;
/** A difference of less than this share of the median is not waited for. */
const MIN_SHARE = 0.1;

/** When loads are looked at while they are still being made. */
export interface Look {
  /** Number of rounds that are done. */
  readonly rounds: number;
  /** Error rate over all series together, of this look. */
  readonly level: number;
}

/**
 * Plans looks at a comparison before all of its rounds are done, the last of them at all. Each look is one more chance of
 * a false verdict, so the error rate is shared out among them, and there is none at which no verdict could be given.
 * @param rounds loads of each side, if it is not ended before
 */
export function planLooks(rounds: number): readonly Look[] {
  const early = Math.ceil(rounds * EARLY_SHARE);
  if (early === rounds || smallestChance(early, early) > EARLY_LEVEL) return [{ rounds, level: LEVEL }];
  return [
    { rounds: early, level: EARLY_LEVEL },
    { rounds, level: LEVEL - EARLY_LEVEL },
  ];
}

/**
 * Whether more rounds could still decide something: a response differs by as much as matters and as the sources can
 * tell, and there is no verdict on it yet.
 */
export function isOpen(series: readonly ComparedSeries[]): boolean {
  return series.some((one) => {
    const { isInteraction, verdict, before, after, stepMs } = one;
    if (!isInteraction || !['no-clear-change', 'too-few-to-say'].includes(verdict)) return false;
    if (before.medianMs === undefined || after.medianMs === undefined) return false;
    return Math.abs(medianChangeMs(one)) >= Math.max(stepMs, before.medianMs * MIN_SHARE);
  });
}

/**
 * The order in which loads of two sides are made: as many of each in every pair, and which of a pair comes first by
 * chance, as often the one as the other.
 * @param random gives numbers from 0 up to 1
 */
export function balancedOrder(rounds: number, random: () => number): readonly ('before' | 'after')[] {
  const isSwapped = Array.from({ length: rounds }, (_, at) => at % 2 === 1);
  shuffle(isSwapped, random);
  return isSwapped.flatMap((swapped) =>
    swapped ? (['after', 'before'] as const) : (['before', 'after'] as const),
  );
}
