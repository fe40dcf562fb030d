import { median } from './median';
import { seededRandom } from './random';
import { shuffle } from './shuffle';

/** A value from which on values lie on another level. */
export interface ChangePoint {
  /** Index of the first value of the new level. */
  readonly at: number;
  /** Medians of the level before, back to the change before, and of the level after, up to the next. */
  readonly before: number;
  readonly after: number;
  /** Chance of as large a change at any place where there is none. */
  readonly chance: number;
}

/** So many orders are drawn at most, and at least; fewer for many values, so that it does not take long. */
const MAX_DRAWS = 9999;
const MIN_DRAWS = 999;
const DRAWN_VALUES = 500_000;
/** A level has so many values at least: fewer could not be told from luck. */
const MIN_LEVEL = 3;
const SEED = 17;

/**
 * The places at which a row of independent values changes its level: the largest first by Pettitt's rank statistic, its
 * chance by drawing orders of the values, and then within either side (Pettitt 1979, Applied Statistics 28; permutation
 * test with the observed order among those drawn, Phipson and Smyth 2010).
 * @param values in order of time
 * @param level error rate over the whole row: a side is searched only where the change that made it holds
 */
export function changePoints(values: readonly number[], level: number): ChangePoint[] {
  const random = seededRandom(SEED);
  const found: { at: number; chance: number }[] = [];
  const search = (from: number, to: number): void => {
    const part = values.slice(from, to);
    const { at, size } = largestChange(ranksOf(part));
    if (at === undefined) return;
    const chance = chanceOf(part, size, random);
    if (chance > level) return;
    found.push({ at: from + at, chance });
    search(from, from + at);
    search(from + at, to);
  };
  search(0, values.length);
  const sorted = found.sort((a, b) => a.at - b.at);
  const bounds = [0, ...sorted.map(({ at }) => at), values.length];
  return sorted.map(({ at, chance }, index) => ({
    at,
    before: median(values.slice(bounds[index], at)),
    after: median(values.slice(at, bounds[index + 2])),
    chance,
  }));
}

/** A stretch of values on one level. */
export interface Level {
  /** Indexes of its first and last value. */
  readonly first: number;
  readonly last: number;
  /** Their median. */
  readonly value: number;
}

/** The levels between changes of a row of so many values, in order; none where nothing changes. */
export function levelsOf(changes: readonly ChangePoint[], length: number): Level[] {
  const [first] = changes;
  if (first === undefined) return [];
  const begins = [0, ...changes.map(({ at }) => at)];
  const values = [first.before, ...changes.map(({ after }) => after)];
  return begins.map((begin, index) => ({
    first: begin,
    last: (begins[index + 1] ?? length) - 1,
    value: values[index]!,
  }));
}

/** Twice the mean rank of each value, from the lowest. */
function ranksOf(values: readonly number[]): Float64Array {
  const order = values.map((_, at) => at).sort((a, b) => values[a]! - values[b]!);
  const ranks = new Float64Array(values.length);
  for (let from = 0; from < order.length;) {
    let to = from;
    while (to < order.length && values[order[to]!] === values[order[from]!]) to++;
    for (let at = from; at < to; at++) ranks[order[at]!] = from + 1 + to;
    from = to;
  }
  return ranks;
}

/** Where the values before and after lie furthest apart, by the sum of their ranks. */
function largestChange(doubledRanks: Float64Array): { at: number | undefined; size: number } {
  const { length } = doubledRanks;
  let [at, size, sum] = [undefined as number | undefined, 0, 0];
  for (let end = 1; end <= length - MIN_LEVEL; end++) {
    sum += doubledRanks[end - 1]!;
    const distance = Math.abs(sum - end * (length + 1));
    if (end >= MIN_LEVEL && distance > size) [at, size] = [end, distance];
  }
  return { at, size };
}

function chanceOf(values: readonly number[], size: number, random: () => number): number {
  const ranks = ranksOf(values);
  const draws = Math.max(MIN_DRAWS, Math.min(MAX_DRAWS, Math.round(DRAWN_VALUES / values.length)));
  let asLarge = 0;
  for (let draw = 0; draw < draws; draw++) {
    shuffle(ranks, random);
    if (largestChange(ranks).size >= size) asLarge++;
  }
  return (1 + asLarge) / (1 + draws);
}
