import { describe, expect, it } from 'vitest';
import { seededRandom } from '../statistics/random';
import { SimulatedBench, type SimulatedAlternative } from '../testing/simulated-bench';
import type { Trial } from './trial';
import { runTrial } from './trial-run';
import type { TrialResult } from './trial-result';

const trialOf = (count: number): Trial => ({
  name: 'Fares',
  place: 'worker',
  setUp: '',
  alternatives: Array.from({ length: count }, (_, at) => ({ name: `way ${at + 1}`, code: 'return 1;' })),
});

/** What a busy machine does: all that runs in a start is moved much, each alternative a little. */
const NOISE = { ofStart: 0.5, ofPlace: 0.04, ofBlock: 0.03 };

function run(
  alternatives: readonly SimulatedAlternative[],
  seed: number,
  more: { maxMs?: number; isStopped?: () => boolean } = {},
): Promise<TrialResult> {
  const random = seededRandom(seed);
  const bench = new SimulatedBench(alternatives, { random, ...NOISE });
  let clock = 0;
  return runTrial(trialOf(alternatives.length), bench, {
    maxMs: 60_000,
    now: () => (clock += 500),
    random,
    ...more,
  });
}

describe('a trial', () => {
  it('tells alternatives that differ by 0, 10 and 50 % rightly in at least 95 of 100 runs', async () => {
    let right = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const { pairs } = await run([{ runMs: 0.1 }, { runMs: 0.1 }, { runMs: 0.11 }, { runMs: 0.15 }], seed);
      const verdicts = pairs.map(({ verdict }) => verdict).join();
      if (verdicts === 'no-clear-change,slower,slower,slower,slower,slower') right++;
    }
    expect(right).toBeGreaterThanOrEqual(95);
  });

  it('gives a verdict on what does not differ in at most 5 of 100 runs', async () => {
    let wrong = 0;
    for (let seed = 1; seed <= 200; seed++) {
      const { pairs } = await run([{ runMs: 0.1 }, { runMs: 0.1 }, { runMs: 0.1 }], 1000 + seed);
      if (pairs.some(({ verdict }) => verdict === 'faster' || verdict === 'slower')) wrong++;
    }
    expect(wrong).toBeLessThanOrEqual(10);
  });

  it('knows how much it is, and ends when that is known closely', async () => {
    const { pairs, ended, starts } = await run([{ runMs: 2 }, { runMs: 1 }], 4);
    expect(ended).toBe('decided');
    expect(starts).toBe(12);
    expect(pairs[0]!.more.low).toBeLessThan(-0.5);
    expect(pairs[0]!.more.high).toBeGreaterThan(-0.5);
  });

  it('does not end while an interval lies beside nothing and the test does not hold yet', async () => {
    for (let seed = 1; seed <= 60; seed++) {
      const { ended, pairs } = await run([{ runMs: 1 }, { runMs: 1.06 }, { runMs: 1.1 }], seed, {
        maxMs: 1e9,
      });
      if (ended !== 'decided') continue;
      for (const { more, verdict } of pairs)
        if (verdict === 'no-clear-change' && Math.abs(more.share) >= 0.02)
          expect(more.low * more.high).toBeLessThanOrEqual(0);
    }
  });

  it('ends when its time is up, and when it is stopped, with what is known by then', async () => {
    const short = await run([{ runMs: 1 }, { runMs: 1 }], 4, { maxMs: 2000 });
    expect(short.ended).toBe('time');
    expect(short.starts).toBeLessThan(6);
    expect(short.pairs[0]!.verdict).toBe('too-few-to-say');
    const stopped = await run([{ runMs: 1 }, { runMs: 1 }], 4, { isStopped: () => true });
    expect(stopped).toMatchObject({ ended: 'stopped', starts: 0, pairs: [] });
  });

  it('goes on without those that throw or never end, and keeps what those before gave', async () => {
    const result = await run(
      [
        { runMs: 1, text: '3' },
        { runMs: 1, problem: { kind: 'endless', message: '' } },
        { runMs: 2, text: '3' },
        { runMs: 1, problem: { kind: 'threw', message: 'RangeError: too far', line: 3 } },
      ],
      8,
    );
    expect(result.alternatives.map(({ problem }) => problem?.kind)).toEqual([
      undefined,
      'endless',
      undefined,
      'threw',
    ]);
    expect(result.alternatives.map(({ runMs }) => runMs.length > 0)).toEqual([true, false, true, false]);
    expect(result.pairs).toHaveLength(1);
    expect(result.pairs[0]).toMatchObject({ first: 0, second: 2, verdict: 'slower' });
    expect(result.alternatives[2]!.checked?.sameAs).toBe(0);
  });

  it('compares nothing where fewer than two run', async () => {
    const problem = { kind: 'threw', message: 'Error: no' } as const;
    const result = await run([{ runMs: 1 }, { runMs: 1, problem }], 8);
    expect(result).toMatchObject({ ended: 'nothing-to-compare', starts: 0, pairs: [] });
  });

  it('begins each start in a fresh place, and times all in every round, in changing order', async () => {
    const random = seededRandom(2);
    const bench = new SimulatedBench([{ runMs: 0.2 }, { runMs: 0.2 }], { random, ...NOISE });
    let clock = 0;
    const { starts } = await runTrial(trialOf(2), bench, { maxMs: 1e9, now: () => (clock += 1), random });
    const begun = bench.asked.filter((one) => one.do === 'begin').length;
    expect(begun).toBe(starts + 1);
    const orders = bench.asked.flatMap((one) => (one.do === 'time' ? [one.blocks.map(({ at }) => at)] : []));
    for (const order of orders)
      for (let at = 0; at < order.length; at += 2) expect(order[at]).not.toBe(order[at + 1]);
    expect(new Set(orders.map((order) => order.join())).size).toBeGreaterThan(starts / 2);
  });

  it('tells the memory of a run where the page does', async () => {
    const { alternatives } = await run([{ runMs: 1, bytes: 4096 }, { runMs: 1 }], 3);
    expect(alternatives.map(({ bytes }) => bytes)).toEqual([4096, undefined]);
  });
});
