import { COUNT_SLOTS, LOOK_COUNTDOWN, slotOf } from '@nettle-patch/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { createLookSampler } from './look-sampler';
import { HANDLER, LINE, LookingThread, OTHER_LINE, SHORT_LINE } from './testing/looking-thread';
import { clock } from './testing/clock';

vi.mock('../natives', async () => (await import('./testing/clock')).clockOfThread);

let { taken, sampler, enter, leave, look, line, callOut, turns, stacks } = new LookingThread();

beforeEach(() => {
  ({ taken, sampler, enter, leave, look, line, callOut, turns, stacks } = new LookingThread());
});

describe('looks of a thread', () => {
  it('sample once a millisecond where it stands', () => {
    enter(HANDLER);
    line(LINE);
    turns(200, 0.1);
    leave();
    const { [`${LINE}`]: onLine = 0 } = stacks();
    expect(onLine).toBeGreaterThanOrEqual(18);
    expect(onLine).toBeLessThanOrEqual(21);
  });

  it('take nothing of the time in which nothing runs', () => {
    for (let run = 0; run < 5; run++) {
      enter(HANDLER);
      line(LINE);
      turns(20, 0.1);
      leave();
      clock.nowMs += 500;
    }
    const all = Object.values(stacks()).reduce((sum, count) => sum + count, 0);
    expect(all).toBeGreaterThanOrEqual(8);
    expect(all).toBeLessThanOrEqual(11);
  });

  it('charge a long call out of rewritten code to the line that called', () => {
    enter(HANDLER);
    callOut(LINE, 50);
    line(OTHER_LINE);
    turns(20, 0.1);
    callOut(LINE, 30);
    leave();
    const { [`${LINE}`]: calling = 0, [`${OTHER_LINE}`]: other = 0 } = stacks();
    expect(calling).toBeGreaterThanOrEqual(79);
    expect(calling).toBeLessThanOrEqual(81);
    expect(other).toBeLessThanOrEqual(3);
  });

  it('charge calls that are quick by themselves with what those took that were looked at', () => {
    enter(HANDLER);
    for (let item = 0; item < 4000; item++) {
      callOut(LINE, 0.0317);
      look(16);
      line(OTHER_LINE);
      turns(1, 0.0279);
    }
    leave();
    const { [`${LINE}`]: calling = 0, [`${OTHER_LINE}`]: other = 0 } = stacks();
    expect(calling + other).toBeGreaterThanOrEqual(235);
    expect(calling / (calling + other)).toBeGreaterThan(0.4);
    expect(calling / (calling + other)).toBeLessThan(0.6);
  });

  it.each([0.0097, 0.0113, 0.0131, 0.0157])(
    'charge calls of %f ms with what they took by a clock of whole milliseconds',
    (ms) => {
      clock.stepMs = 1;
      enter(HANDLER);
      for (let item = 0; item < 8000; item++) {
        callOut(LINE, ms);
        look(16);
        line(OTHER_LINE);
        turns(1, 0.0279);
      }
      leave();
      const { [`${LINE}`]: calling = 0, [`${OTHER_LINE}`]: other = 0 } = stacks();
      const trueMs = 8000 * ms;
      expect(calling).toBeGreaterThan(0.5 * trueMs);
      expect(calling).toBeLessThan(1.5 * trueMs);
      expect(calling + other).toBeGreaterThan(0.9 * 8000 * (ms + 0.0279));
    },
  );

  it('charge what took time before a call, and not the line that happens to stand right before it', () => {
    enter(HANDLER);
    for (let item = 0; item < 3000; item++) {
      line(OTHER_LINE);
      turns(10, 0.0031);
      line(SHORT_LINE);
      callOut(LINE, 0.0107);
      look(16);
    }
    leave();
    const counts = stacks();
    const [other, short, calling] = [OTHER_LINE, SHORT_LINE, LINE].map((id) => counts[id] ?? 0);
    expect(other! + short! + calling!).toBeGreaterThan(120);
    expect(Math.abs(other! - 93)).toBeLessThan(10);
    expect(Math.abs(calling! - 32)).toBeLessThan(10);
  });

  it.each([0, 1])(
    'behind a loop that was passed over are on its lines, each for what is done there, by a clock of steps of %f ms',
    (step) => {
      clock.stepMs = step;
      enter(HANDLER);
      for (let loop = 0; loop < 6000; loop++) {
        clock.nowMs += 0.05;
        if ((sampler.calls[LOOK_COUNTDOWN]! -= 4500) < 0)
          sampler.look(LINE, 30, OTHER_LINE, 50, SHORT_LINE, 10);
      }
      leave();
      const counts = stacks();
      const shares = [LINE, OTHER_LINE, SHORT_LINE].map((id) => (counts[id] ?? 0) / 300);
      expect(Math.abs(shares[0]! - 30 / 90)).toBeLessThan(0.1);
      expect(Math.abs(shares[1]! - 50 / 90)).toBeLessThan(0.1);
      expect(Math.abs(shares[2]! - 10 / 90)).toBeLessThan(0.1);
    },
  );

  it('behind a loop leave a stack that was unwound within it as it is', () => {
    enter(HANDLER);
    sampler.unwind();
    sampler.calls[LOOK_COUNTDOWN] = -1;
    sampler.look(LINE, 30);
    expect(sampler.calls[0]).toBe(0);
  });

  it('charge time that passed before a function was entered to its caller', () => {
    enter(HANDLER);
    line(LINE);
    look(1e9);
    clock.nowMs += 20;
    sampler.calls[LOOK_COUNTDOWN] = -1;
    enter(HANDLER + 1);
    leave();
    leave();
    expect(stacks()).toEqual({ [`${LINE}`]: 20 });
  });

  it('hand samples on while a task goes on that does not end', () => {
    enter(HANDLER);
    line(LINE);
    turns(20_000, 0.1);
    const inTask = taken.reduce((sum, { timesMs }) => sum + timesMs.length, 0);
    expect(inTask).toBeGreaterThan(1500);
  });

  it('read the clock some ten times a millisecond, however much is done in one', () => {
    let reads = 0;
    const counting = createLookSampler(
      () => undefined,
      () => false,
      false,
    );
    counting.switch(true);
    counting.calls[0] = 1;
    counting.calls[1] = LINE;
    for (let turn = 0; turn < 200_000; turn++) {
      clock.nowMs += 0.001;
      if ((counting.calls[LOOK_COUNTDOWN]! -= 10) < 0) {
        reads++;
        counting.look();
      }
    }
    expect(reads / 200).toBeGreaterThan(5);
    expect(reads / 200).toBeLessThan(20);
  });

  describe('at calls out of rewritten code', () => {
    /** Calls out as often, when the step of the clock is known. @returns how many of the calls were looked at */
    const lookedAt = (calls: number, msOf: (call: number) => number) => {
      clock.stepMs = 0.1;
      let looked = 0;
      enter(HANDLER);
      callOut(OTHER_LINE, 0.1);
      for (let call = 0; call < calls; call++) {
        if (sampler.counts[slotOf(LINE)] === 0) looked++;
        callOut(LINE, msOf(call));
        look(16);
      }
      leave();
      return looked;
    };

    it('are no more where many quick ones follow on one that took long', () => {
      const looked = lookedAt(70_000, (call) => (call === 0 ? 5 : 0.0004));
      expect(looked).toBeGreaterThan(300);
      expect(looked).toBeLessThan(1600);
    });

    it('leave none out of those that take long', () => {
      expect(lookedAt(6, () => 50)).toBe(6);
    });
  });

  it('cost next to nothing while nothing is recorded, and begin anew with a recording', () => {
    sampler.switch(false);
    callOut(LINE, 1);
    expect(sampler.counts[slotOf(LINE)]).toBeGreaterThan(1e6);
    sampler.switch(true);
    expect(sampler.counts[slotOf(LINE)]).toBe(0);
    expect(sampler.counts.length).toBe(COUNT_SLOTS);
  });

  it('are not asked for where another thread takes the samples', () => {
    const made = (isShared: boolean) =>
      createLookSampler(
        () => undefined,
        () => true,
        isShared,
      );
    expect(made(true).takesLooks).toBe(false);
    expect(made(false).takesLooks).toBe(true);
  });

  it('end, though functions of the app that look themselves stand in for those of the language', () => {
    let depth = 0;
    let deepest = 0;
    const owners = [
      [Map.prototype, 'get'],
      [Map.prototype, 'set'],
      [Array.prototype, 'push'],
      [Math, 'min'],
      [Math, 'floor'],
    ] as const;
    const putBack = owners.map(([owner, name]) => {
      const descriptor = Reflect.getOwnPropertyDescriptor(owner, name)!;
      const original = descriptor.value as () => unknown;
      const value = function (this: unknown, ...args: unknown[]): unknown {
        if (++depth > deepest) deepest = depth;
        try {
          if (depth > 50) throw new RangeError('without end');
          enter(HANDLER + 1);
          callOut(LINE + 1, 2);
          callOut(LINE + 2, 2);
          leave();
          return Reflect.apply(original, this, args);
        } finally {
          depth--;
        }
      };
      Object.defineProperty(owner, name, { ...descriptor, value });
      return () => Object.defineProperty(owner, name, descriptor);
    });
    enter(HANDLER);
    for (let turn = 0; turn < 5; turn++) callOut(OTHER_LINE, 3);
    leave();
    for (const act of putBack) act();
    expect(deepest).toBeLessThanOrEqual(1);
    enter(HANDLER);
    line(LINE);
    turns(50, 0.5);
    leave();
    expect(stacks()[`${LINE}`]).toBeGreaterThan(20);
  });
});
