import { LEVEL } from '../statistics/level';
import type { Trial } from './trial';
import { answered, isProblem, TrialBenchError, type TrialBench } from './trial-bench';
import type { TrialBegun, TrialBlock, TrialChecked, TrialProblem } from './trial-messages';
import {
  comparePairs,
  isNarrow,
  medianKnown,
  type TrialEnd,
  type TrialResult,
  type TrialStart,
} from './trial-result';

/** Starts after which it is looked whether all is decided; the error rate is shared out among them. */
const LOOKS = [12, 16, 24, 32, 48] as const;
const MAX_STARTS = LOOKS.at(-1)!;
/** Longest that one call may take. Milliseconds. */
export const RUN_LIMIT_MS = 10_000;
/** A block lasts so long at least, and so many steps of the clock. */
const MIN_BLOCK_MS = 20;
const BLOCK_STEPS = 50;
/** So long is each called before it is timed, in blocks' lengths. */
const WARM_BLOCKS = 5;
/** Blocks of each alternative in a start; fewer where one call lasts longer than a block. */
const BLOCKS = 5;
const FEW_BLOCKS = 3;
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
    const ofAll = (of: (start: TrialStart) => readonly (number | undefined)[], at: number) =>
      this.problems[at] === undefined ? this.starts.map((start) => of(start)[at]) : [];
    const runMs = this.problems.map((_, at) =>
      ofAll((start) => start.runMs, at).filter((value) => value !== undefined),
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
        bytes: medianKnown(ofAll((start) => start.bytes, at)),
      })),
      pairs: comparePairs(runMs, level),
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
  const beganMs = now();
  await checkAll(found, bench);
  while (found.running.length >= 2) {
    if (isStopped?.()) return found.result('stopped');
    const made = await startOnce(found, bench, random);
    if (made === undefined) continue;
    found.starts.push(made);
    const soFar = found.result('time');
    onStart?.(soFar);
    const { length } = found.starts;
    if (LOOKS.some((look) => look === length) && soFar.pairs.every(isNarrow)) return found.result('decided');
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
  const warmMs = WARM_BLOCKS * blockMs;
  const turns = new Map<number, number>();
  for (const at of shuffled(running, random)) {
    const limitMs = RUN_LIMIT_MS + 4 * warmMs;
    const warmed = answered(await bench.ask({ do: 'warm', at, blockMs, warmMs, limitMs }), 'turns');
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
  const rounds = Array.from({ length: isSlow ? FEW_BLOCKS : BLOCKS }, () => shuffled(running, random));
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
  type Timed = (typeof timed)[number];
  const ofAlternative = (of: (block: Timed, turns: number) => number | undefined) =>
    found.problems.map((_, at) =>
      medianKnown(
        blocks.map((block, index) => (block.at === at ? of(timed[index]!, block.turns) : undefined)),
      ),
    );
  return {
    runMs: ofAlternative(({ ms }, count) => Math.max(ms, Number.MIN_VALUE) / count),
    bytes: ofAlternative(({ bytes }, count) =>
      bytes === undefined || bytes < 0 ? undefined : bytes / count,
    ),
  };
}

/** The same in random order (Fisher and Yates). */
function shuffled<T>(items: readonly T[], random: () => number): T[] {
  const order = [...items];
  for (let at = order.length - 1; at > 0; at--) {
    const other = Math.floor(random() * (at + 1));
    [order[at], order[other]] = [order[other]!, order[at]!];
  }
  return order;
}
