import fc from 'fast-check';
import { expect, it } from 'vitest';
import { breakdownOf } from '../attribution/time-breakdown';
import { partition } from '../attribution/partition';
import { arbitraryRecording } from '../testing/arbitrary-recording';
import { skylineOf } from './skyline';

it('the skyline holds just the busy time of the partition, whatever the number of its steps', () => {
  fc.assert(
    fc.property(arbitraryRecording, fc.integer({ min: 1, max: 300 }), (recording, steps) => {
      const skyline = skylineOf(recording, steps);
      const blame = breakdownOf(partition(recording, 0, recording.range));
      const drawn = Object.entries(skyline.parts).map(
        ([part, column]) => [part, column.reduce((sum, ms) => sum + ms, 0)] as const,
      );
      for (const [part, ms] of drawn) {
        if (part === 'unexplainedMs') expect(ms).toBeLessThanOrEqual(blame.unexplainedMs + 0.01);
        else expect(ms).toBeCloseTo(blame[part as keyof typeof blame], 1);
      }
      for (let step = 0; step < steps; step++) {
        const busy = Object.values(skyline.parts).reduce((sum, column) => sum + column[step]!, 0);
        expect(busy).toBeLessThanOrEqual(skyline.stepMs + 0.01);
      }
    }),
  );
});
