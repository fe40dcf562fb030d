import { expect, it } from 'vitest';
import { deskHeader } from '../testing/arbitrary-recording';
import { delayStepMs } from './delay-step';

it('delays are told in the step of Event Timing, of the clock, or of what the header says', () => {
  const stepOf = (header: Parameters<typeof deskHeader>[0]) =>
    delayStepMs({ header: deskHeader({ clockStepMs: 0.1, ...header }) });
  expect(stepOf({ available: ['event'] })).toBe(8);
  expect(stepOf({ available: ['handlers'] })).toBe(0.1);
  expect(stepOf({ available: ['event'], delayStepMs: 0.001 })).toBe(0.001);
});
