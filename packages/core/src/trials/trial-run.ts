import { LEVEL } from '../statistics/level';
import { median } from '../statistics/median';
import { shuffle } from '../statistics/shuffle';
import type { Trial } from './trial';
import { answered, isProblem, TrialBenchError, type TrialBench } from './trial-bench';
import type { TrialBegun, TrialBlock, TrialChecked, TrialProblem } from './trial-messages';
import {
  comparePairs,
  isDecided,
  medianKnown,
  type TrialEnd,
  type TrialResult,
  type TrialStart,
} from './trial-result';

/** Starts after which it is looked whether all is decided; the error rate is shared out among them. */
const LOOKS = [12, 18, 27, 40, 60, 90, 135, 200] as const;
const MAX_STARTS = LOOKS.at(-1)!;
/** Longest that one call may take. Milliseconds. */
export const RUN_LIMIT_MS = 10_000;
/** A block lasts so long at least, and so many steps of the clock: short blocks in turn share what goes on beside them. */
const MIN_BLOCK_MS = 5;
const BLOCK_STEPS = 50;
/** So long is each called before it is timed, and so long is it timed in a start. Milliseconds. */
const WARM_MS = 80;
const TIMED_MS = 60;
/** Rounds of blocks in a start; the fewest where one call lasts longer than a block. */
const MIN_ROUNDS = 5;
const MAX_ROUNDS = 20;
const BEGIN_LIMIT_MS = 20_000;

export interface TrialOptions {
  /** It ends after so long, whatever is decided. Milliseconds. */
  readonly maxMs: number;
  /** Gives numbers from 0 up to 1, for the order of things. */
  readonly random?: () => number;
  /** Gives the time, in milliseconds from any moment on. */
  readonly now: () => number;
  /** Whether it is to end as soon as it can. */
  readonly isStopped?: () => boolean;
  /** Called after each start with what is known by then. */
  readonly onStart?: (soFar: TrialResult) => void;
}

/** What is found while a trial goes on. */
class Findings {
  readonly problems: (TrialProblem | undefined)[];
  readonly checks: (TrialChecked | undefined)[];
  readonly starts: TrialStart[] = [];
  begun: TrialBegun | undefined;

  constructor(readonly trial: Trial) {
    this.problems = trial.alternatives.map(() => undefined);
    this.checks = trial.alternatives.map(() => undefined);
  }

  /** Indexes of the alternatives that have shown no problem. */
  get running(): number[] {
    return this.problems.flatMap((problem, at) => (problem === undefined ? [at] : []));
  }

  result(ended: TrialEnd): TrialResult {
    const level = LEVEL / LOOKS.length;
    const isTimed = (at: number) => this.problems[at] === undefined;
    const runMs = this.problems.map((_, at) =>
      isTimed(at) ? this.starts.map(({ rounds }) => median(rounds.map((round) => round[at]!))) : [],
    );
    return {
      engine: this.begun?.engine ?? '',
      place: this.trial.place,
      clockStepMs: this.begun?.clockStepMs ?? 0,
      alternatives: this.trial.alternatives.map(({ name }, at) => ({
        name,
        problem: this.problems[at],
        checked: this.checks[at],
        runMs: runMs[at]!,
        medianMs: medianKnown(runMs[at]!),
        bytes: isTimed(at) ? medianKnown(this.starts.map(({ bytes }) => bytes[at])) : undefined,
      })),
      pairs: comparePairs(this.starts, this.running, level),
      starts: this.starts.length,
      level,
      ended,
    };
  }
}

/**
 * Runs a trial: in each of many fresh starts all alternatives are loaded, called until they are warm and timed in turn, in
 * random order, until every difference is known closely enough or the time is up. The start is the unit of the test, as
 * what is called often in one place shares its luck.
 * @throws TrialBenchError, and what the bench throws
 */
export async function runTrial(trial: Trial, bench: TrialBench, options: TrialOptions): Promise<TrialResult> {
  const found = new Findings(trial);
  const { now, maxMs, random = Math.random, isStopped, onStart } = options;
  await checkAll(found, bench);
  const beganMs = now();
  while (found.running.length >= 2) {
    if (isStopped?.()) return found.result('stopped');
    const made = await startOnce(found, bench, random);
    if (made === undefined) continue;
    found.starts.push(made);
    const soFar = found.result('time');
    onStart?.(soFar);
    const { length } = found.starts;
    if (LOOKS.some((look) => look === length) && soFar.pairs.every(isDecided)) return found.result('decided');
    if (length >= MAX_STARTS || now() - beganMs >= maxMs) return soFar;
  }
  return found.result('nothing-to-compare');
}

/** Calls each alternative once and again, and compares what they give. One that never ends is left out. */
async function checkAll(found: Findings, bench: TrialBench): Promise<void> {
  let at = 0;
  let isFresh = false;
  while (at < found.problems.length) {
    if (!isFresh) {
      await begin(found, bench);
      // What those before gave went with the place.
      for (const before of found.running.filter((one) => one < at)) await loadAndCheck(found, bench, before);
    }
    const problem = await loadAndCheck(found, bench, at);
    isFresh = problem?.kind !== 'endless';
    at++;
  }
}

async function begin(found: Findings, bench: TrialBench): Promise<void> {
  const { place } = found.trial;
  const begun = answered(await bench.ask({ do: 'begin', place, limitMs: BEGIN_LIMIT_MS }), 'begun');
  if (isProblem(begun)) {
    throw new TrialBenchError(
      begun.kind === 'endless'
        ? `the ${place} in which it was to run did not answer within ${BEGIN_LIMIT_MS / 1000} s`
        : `the ${place} in which it was to run could not be made: ${begun.message}`,
    );
  }
  found.begun = begun;
}

async function load(found: Findings, bench: TrialBench, at: number): Promise<TrialProblem | undefined> {
  const { problem } = await bench.ask({ do: 'load', at, limitMs: RUN_LIMIT_MS });
  if (problem !== undefined) found.problems[at] = problem;
  return problem;
}

async function loadAndCheck(
  found: Findings,
  bench: TrialBench,
  at: number,
): Promise<TrialProblem | undefined> {
  const failed = await load(found, bench, at);
  if (failed !== undefined) return failed;
  const checked = answered(await bench.ask({ do: 'check', at, limitMs: RUN_LIMIT_MS }), 'checked');
  if (isProblem(checked)) return (found.problems[at] = checked);
  found.checks[at] = checked;
  return undefined;
}

/** One start, with all that run; undefined where one of them showed a problem, so that the start is made again without it. */
async function startOnce(
  found: Findings,
  bench: TrialBench,
  random: () => number,
): Promise<TrialStart | undefined> {
  await begin(found, bench);
  const { running } = found;
  for (const at of shuffled(running, random))
    if ((await load(found, bench, at)) !== undefined) return undefined;
  const blockMs = Math.max(MIN_BLOCK_MS, BLOCK_STEPS * found.begun!.clockStepMs);
  const turns = new Map<number, number>();
  for (const at of shuffled(running, random)) {
    const limitMs = RUN_LIMIT_MS + 4 * WARM_MS;
    const warmed = answered(await bench.ask({ do: 'warm', at, blockMs, warmMs: WARM_MS, limitMs }), 'turns');
    if (isProblem(warmed)) {
      found.problems[at] = warmed;
      return undefined;
    }
    turns.set(at, warmed);
  }
  return timeBlocks(found, bench, { turns, blockMs, random });
}

interface Timing {
  readonly turns: ReadonlyMap<number, number>;
  readonly blockMs: number;
  readonly random: () => number;
}

async function timeBlocks(
  found: Findings,
  bench: TrialBench,
  { turns, blockMs, random }: Timing,
): Promise<TrialStart | undefined> {
  const running = [...turns.keys()];
  const isSlow = running.some((at) => turns.get(at) === 1);
  const usual = Math.min(MAX_ROUNDS, Math.max(MIN_ROUNDS, Math.round(TIMED_MS / blockMs)));
  const rounds = Array.from({ length: isSlow ? MIN_ROUNDS : usual }, () => shuffled(running, random));
  const blocks = rounds.flat().map((at): TrialBlock => ({ at, turns: turns.get(at)! }));
  const limitMs = blocks.length * (isSlow ? RUN_LIMIT_MS : Math.max(1000, 20 * blockMs));
  const timed = answered(await bench.ask({ do: 'time', blocks, limitMs }), 'blocks');
  if (isProblem(timed)) {
    throw new TrialBenchError(
      timed.kind === 'endless'
        ? `the alternatives took longer than ${limitMs / 1000} s although each had ended before`
        : `an alternative threw after it had ended well before: ${timed.message}`,
    );
  }
  const inRound = (order: readonly number[], round: number, at: number) => {
    const place = order.indexOf(at);
    if (place < 0) return undefined;
    const { ms } = timed[round * running.length + place]!;
    return Math.max(ms, Number.MIN_VALUE) / turns.get(at)!;
  };
  const bytesOf = (at: number) =>
    medianKnown(
      blocks.map((block, index) => {
        const { bytes } = timed[index]!;
        return block.at !== at || bytes === undefined || bytes < 0 ? undefined : bytes / block.turns;
      }),
    );
  return {
    rounds: rounds.map((order, round) => found.problems.map((_, at) => inRound(order, round, at))),
    bytes: found.problems.map((_, at) => bytesOf(at)),
  };
}

/** The same in random order. */
function shuffled<T>(items: readonly T[], random: () => number): T[] {
  const order = [...items];
  shuffle(order, random);
  return order;
}
