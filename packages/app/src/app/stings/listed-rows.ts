import { MAIN_THREAD, budgetText, feltText, kindLabel, lengthOnSlower } from '@nettle-patch/core';
import type { ListedSeries, ListedSting, OpenedRecording } from '../../workers/analysis/analysis-results';

/** One series as a row of the list. */
export interface ListRow {
  /** Index of its worst sting. */
  readonly sting: number;
  readonly label: string;
  readonly how: string;
  readonly felt: string;
  readonly budget: string;
  /** All its stings. */
  readonly stings: readonly number[];
  /** Each with its share of the widest bar, in percent. */
  readonly parts: readonly { readonly name: string; readonly width: number }[];
  readonly budgetAt: number;
}

/** Rows that are counted in the same unit, so that one scale holds for their bars. */
export interface ListGroup {
  readonly heading: string;
  /** How many stings its rows stand for. */
  readonly count: number;
  readonly rows: readonly ListRow[];
}

type ListContent = {
  readonly series: readonly ListedSeries[];
  readonly stings: readonly ListedSting[];
  /** How many times slower the device is that lengths are estimated for. */
  readonly slower: number;
  readonly threads: OpenedRecording['threads'];
};

/** How many stings some series stand for. */
export function stingCount(series: readonly ListedSeries[]): number {
  return series.reduce((sum, { stings }) => sum + stings.length, 0);
}

/** The list in its groups: delays, and what takes a part of each second, which no delay can be held against. */
export function listGroups({ series, stings, slower, threads }: ListContent): ListGroup[] {
  const rate = (one: ListedSeries) => stings[one.stings[0]!]!.isRate;
  const groups = [
    { heading: 'Delays', series: series.filter((one) => !rate(one)) },
    { heading: 'Ongoing costs, per second', series: series.filter(rate) },
  ];
  return groups
    .filter((group) => group.series.length > 0)
    .map((group) => {
      const worst = group.series.map((one) => stings[one.stings[0]!]!);
      const longest = Math.max(1, ...worst.map((one) => feltMs(one, slower)));
      const rows = group.series.map((one, at) => {
        const { thread } = worst[at]!;
        const where = thread === MAIN_THREAD ? undefined : threads.find(({ id }) => id === thread)?.name;
        return rowOf(one, worst[at]!, slower, longest, where);
      });
      return { heading: group.heading, count: stingCount(group.series), rows };
    });
}

/** The delay, as the lens has it. Lengths that are no delay stay as they are. */
function feltMs({ feltMs, idleMs, detail }: ListedSting, slower: number): number {
  return detail === undefined ? lengthOnSlower(feltMs, idleMs, slower) : feltMs;
}

/** @param where the thread it was on, where that is not the main one */
function rowOf(
  series: ListedSeries,
  worst: ListedSting,
  slower: number,
  longest: number,
  where: string | undefined,
): ListRow {
  const ms = feltMs(worst, slower);
  const percent = (length: number) => (length / longest) * 100;
  return {
    sting: series.stings[0]!,
    label: series.label,
    how: [...new Set([worst.kind, ...worst.also])]
      .map(kindLabel)
      .concat(timesWords(series), where === undefined ? [] : `on ${where}`)
      .join(' · '),
    felt: `${ms === worst.feltMs ? '' : '≈ '}${feltText({ ...worst, feltMs: ms })}`,
    budget: `budget ${budgetText(worst)}`,
    stings: series.stings,
    parts: worst.parts.map((part) => ({ name: part.name, width: percent((part.ms / worst.feltMs) * ms) })),
    budgetAt: percent(worst.budgetMs),
  };
}

function timesWords({ stings, attempts }: ListedSeries): string[] {
  if (attempts !== undefined && attempts > stings.length) return [`${stings.length} of ${attempts} times`];
  return stings.length > 1 ? [`${stings.length} times`] : [];
}
