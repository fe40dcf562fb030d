import { expect, it, vi } from 'vitest';
import { seededRandom } from '../../../../core/src/statistics/random';
import { clock } from './testing/clock';
import { HANDLER, LINE, LookingThread, OTHER_LINE } from './testing/looking-thread';

vi.mock('../natives', async () => (await import('./testing/clock')).clockOfThread);

const CALLS = 6000;
const RUNS = 200;

const random = seededRandom(1);

/** The time of a line whose calls are quick: how far off it is, and how far off chance may have it by what is told. */
function measured(callMs: number, stepMs: number) {
  const { enter, leave, line, look, turns, callOut, stacks, variances } = new LookingThread();
  clock.nowMs += random();
  clock.stepMs = stepMs;
  enter(HANDLER);
  let trueMs = 0;
  for (let call = 0; call < CALLS; call++) {
    const ms = callMs * (0.5 + random());
    trueMs += ms;
    callOut(LINE, ms);
    look(16);
    line(OTHER_LINE);
    turns(1, callMs * (0.5 + random()));
  }
  leave();
  const { [LINE]: samples = 0 } = stacks();
  return { offMs: Math.abs(samples - trueMs), samples, errorMs: Math.sqrt(variances()[LINE] ?? 1) };
}

it.each([
  { stepMs: 1, fromMs: 0.008, toMs: 0.03 },
  { stepMs: 0.1, fromMs: 0.002, toMs: 0.03 },
])('time of quick calls is as far off as is told, by a clock in steps of $stepMs ms', (clockAndCalls) => {
  const { stepMs, fromMs, toMs } = clockAndCalls;
  const runs = Array.from({ length: RUNS }, () => measured(fromMs + (toMs - fromMs) * random(), stepMs));
  const within = (errorOf: (run: (typeof runs)[number]) => number) =>
    runs.filter((run) => run.offMs <= 2 * errorOf(run)).length / RUNS;
  const told = within(({ errorMs }) => errorMs);
  expect(told).toBeGreaterThan(0.9);
  // By their number alone they would seem surer than they are.
  const byNumber = within(({ samples }) => Math.sqrt(samples));
  if (stepMs === 1) expect(byNumber).toBeLessThan(told - 0.05);
  else expect(byNumber).toBeLessThanOrEqual(told);
});
