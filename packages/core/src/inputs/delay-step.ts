import type { Recording } from '../recording/recording';

/** Event Timing rounds delays to this. Milliseconds. */
const EVENT_TIMING_STEP_MS = 8;

/** The step in which the delays of a recording's inputs are told: no difference below it is one. Milliseconds. */
export function delayStepMs({ header }: Pick<Recording, 'header'>): number {
  const { available, clockStepMs, delayStepMs: told } = header;
  return told ?? (available.includes('event') ? EVENT_TIMING_STEP_MS : clockStepMs);
}
