import { WIDE_LENS } from '../calls/lens';
import type { Owner } from '../recording/functions';
import type { Recording } from '../recording/recording';
import { changeOf } from './compare-functions';
import {
  commonLabels,
  functionSide,
  namedIn,
  sideFor,
  unitOf,
  type FunctionSide,
  type FunctionUnit,
} from './function-sides';
import { standingsOf, type FirmPair, type Standing } from './standings';

/** What a function took in several recordings. */
export interface SeveralFunction {
  readonly name: string;
  readonly place: string;
  readonly owner: Owner;
  readonly unit: FunctionUnit;
  /** What it took in each, in their order; undefined where it was not seen. */
  readonly sides: readonly (FunctionSide | undefined)[];
  /** Where the difference is more than sampling may bring. */
  readonly standings: readonly Standing[];
}

/** Pairs of recordings that have a function and differ in what it took. */
function firmPairs(sides: readonly (FunctionSide | undefined)[]): FirmPair[] {
  return sides.flatMap((one, first) =>
    sides.flatMap((other, second) => {
      if (one === undefined || other === undefined || second <= first) return [];
      const change = changeOf(one, other);
      if (change === 'cheaper') return [{ quicker: second, slower: first }];
      return change === 'dearer' ? [{ quicker: first, slower: second }] : [];
    }),
  );
}

/**
 * What each function took in several recordings, those that took most first: for each time that what was done in all of
 * them was done, where it ran for that, and for each second otherwise.
 */
export function severalFunctions(recordings: readonly Recording[]): SeveralFunction[] {
  const labels = commonLabels(recordings);
  const all = recordings.map((recording) => sideFor(recording, labels, WIDE_LENS));
  const keys = [...new Set(all.flatMap(({ rows }) => [...rows.keys()]))];
  const functions = keys.map((key): SeveralFunction => {
    const rows = all.map((side) => side.rows.get(key));
    const unit = unitOf(all, rows);
    const sides = all.map((side, at) => functionSide(side, rows[at], unit));
    return {
      ...namedIn(all, rows),
      unit,
      sides,
      standings: standingsOf(recordings.length, firmPairs(sides)),
    };
  });
  const most = ({ sides }: SeveralFunction) => Math.max(...sides.map((side) => side?.perUnitMs ?? 0));
  return functions.sort((a, b) => most(b) - most(a) || (a.name < b.name ? -1 : 1));
}
