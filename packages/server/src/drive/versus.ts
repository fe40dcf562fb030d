import {
  balancedOrder,
  compareLoads,
  isOpen,
  planLooks,
  thresholdsOf,
  type LoadComparison,
  type Recording,
  type VersusRun,
} from '@nettle-patch/core';
import { Loads, type Side, type VersusOptions } from './loads';

/** All loads of one address in turn, and then all of the other: two versions that stand at one address. */
export interface VersusByChange {
  /** One for each browser. */
  readonly all: readonly VersusOptions[];
  /** Settles when the other version is there. */
  readonly changed: () => Promise<void>;
}

/** What loads that were not made in turn leave open. */
export const NOT_IN_TURN =
  'All loads of A were made before those of B, as both stand at one address: what changed on this machine meanwhile is not controlled for.';

function typicalOf(
  { typical }: LoadComparison,
  made: Readonly<Record<Side, readonly Recording[]>>,
): VersusRun['typical'] {
  return { before: made.before[typical.before]!, after: made.after[typical.after]! };
}

/** A run, which can tell its typical loads as files. */
export interface MadeVersus {
  readonly run: VersusRun;
  typicalFile(side: Side): Promise<Uint8Array>;
}

/**
 * Holds two versions of one address against each other: all loads of the one in each browser, then all of the other.
 * @throws FailedLoadError, BrowserError, FileError
 */
export async function runVersusByChange({ all, changed }: VersusByChange): Promise<VersusRun[]> {
  const makers = await Promise.all(all.map((options) => Loads.of(options)));
  const made = all.map((): Record<Side, Recording[]> => ({ before: [], after: [] }));
  const makeAll = async (side: Side) => {
    for (const [at, { rounds }] of all.entries()) {
      for (let round = 1; round <= rounds; round++) {
        const left = rounds - round + 1 + (side === 'before' ? rounds : 0);
        made[at]![side].push(await makers[at]!.make(side, round, left));
      }
    }
  };
  await makeAll('before');
  // A run that was cut while it made those of B goes on with them.
  if (!makers.some((loads) => loads.isKept('after', 1))) await changed();
  await makeAll('after');
  return all.map(({ browser, rounds }, at): VersusRun => {
    const { before, after } = made[at]!;
    const comparison = compareLoads(before, after, thresholdsOf(after[0]!.header));
    return {
      browser,
      typical: typicalOf(comparison, made[at]!),
      comparison,
      planned: rounds,
      done: rounds,
      inTurn: false,
    };
  });
}

/**
 * Holds two addresses against each other: fresh loads of both in turn and in random order, until nothing is left to
 * decide or all rounds are done.
 * @throws FailedLoadError when steps fail; BrowserError when there is no browser to be had; FileError
 */
export async function runVersus(options: VersusOptions): Promise<MadeVersus> {
  const { rounds, browser } = options;
  const loads = await Loads.of(options);
  const looks = planLooks(rounds);
  const order = balancedOrder(rounds, options.random ?? Math.random);
  const made: Record<Side, Recording[]> = { before: [], after: [] };
  let comparison: LoadComparison | undefined;
  let done = 0;
  while (done < rounds) {
    const round = done + 1;
    for (const side of order.slice(2 * done, 2 * round)) {
      const left = 2 * rounds - made.before.length - made.after.length;
      made[side].push(await loads.make(side, round, left));
    }
    done = round;
    const look = looks.find(({ rounds: at }) => at === done);
    if (look === undefined) continue;
    comparison = compareLoads(made.before, made.after, thresholdsOf(made.after[0]!.header), look.level);
    if (!isOpen(comparison.series)) break;
  }
  const { typical } = comparison!;
  return {
    run: {
      browser,
      typical: typicalOf(comparison!, made),
      comparison: comparison!,
      planned: rounds,
      done,
      inTurn: true,
    },
    typicalFile: (side) => loads.fileOf(side, typical[side] + 1),
  };
}
