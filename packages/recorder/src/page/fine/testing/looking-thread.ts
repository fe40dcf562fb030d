import { LOOK_COUNTDOWN, slotOf } from '@nettle-patch/core';
import { createLookSampler } from '../look-sampler';
import { SAME, type LookSamples } from '../stack-samples';
import { clock } from './clock';

export const HANDLER = 100;
export const LINE = 300;
export const OTHER_LINE = 301;
export const SHORT_LINE = 302;

/** A thread that runs a rewritten script, and is sampled by looks. */
export class LookingThread {
  readonly taken: LookSamples[] = [];
  readonly sampler = createLookSampler(
    (samples) => this.taken.push(samples),
    (id) => id < LINE,
    false,
  );

  constructor() {
    clock.nowMs = 1000;
    clock.stepMs = 0;
    this.sampler.switch(true);
  }

  /** What a function does as it is entered. */
  readonly enter = (id: number): void => {
    const depth = ++this.sampler.calls[0]!;
    this.sampler.calls[depth] = id;
    this.look(8);
  };

  readonly leave = (): void => {
    if (--this.sampler.calls[0]! === 0) this.sampler.leaveRoot();
  };

  readonly look = (weight: number): void => {
    if ((this.sampler.calls[LOOK_COUNTDOWN]! -= weight) < 0) this.sampler.look();
  };

  readonly line = (id: number): void => {
    this.sampler.calls[this.sampler.calls[0]!] = id;
  };

  readonly callOut = (id: number, ms: number): void => {
    if (--this.sampler.counts[slotOf(id)]! < 0) this.sampler.lookAtCall(id);
    this.line(id);
    clock.nowMs += ms;
  };

  /** Turns of a loop, each of so many milliseconds. */
  readonly turns = (count: number, ms: number): void => {
    for (let turn = 0; turn < count; turn++) {
      clock.nowMs += ms;
      this.look(1000);
    }
  };

  /** How often each stack was sampled. */
  readonly stacks = (): Record<string, number> => this.#added(() => 1);

  /** How far chance may have moved how often each stack was sampled: the variance that is told. */
  readonly variances = (): Record<string, number> =>
    this.#added(({ together }, sample) => together?.[sample] ?? 1);

  /** What each sample adds to its stack. */
  #added(of: (samples: LookSamples, sample: number) => number): Record<string, number> {
    this.sampler.handOver();
    const sums: Record<string, number> = {};
    for (const samples of this.taken) {
      const { timesMs, stacks: flat } = samples;
      let at = 0;
      let latest = '';
      for (let sample = 0; sample < timesMs.length; sample++) {
        const depth = flat[at++]!;
        if (depth !== SAME) {
          latest = [...flat.subarray(at, at + depth)].join();
          at += depth;
        }
        sums[latest] = (sums[latest] ?? 0) + of(samples, sample);
      }
    }
    return sums;
  }
}
