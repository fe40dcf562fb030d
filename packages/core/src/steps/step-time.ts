import type { Step } from './steps';

/** What steps that leave it open take. Milliseconds, but for the number of moves. */
export const STEP_DEFAULTS = {
  /** How long a button is held down by a quick finger. */
  pressMs: 40,
  betweenKeysMs: 120,
  dragMoves: 12,
  betweenMovesMs: 30,
} as const;

/**
 * How long steps take by themselves: their waits, and the pauses between keys and moves. What the page takes to answer
 * comes on top. Milliseconds.
 */
export function plannedMs(steps: readonly Step[]): number {
  return steps.reduce((sum, step) => sum + plannedOf(step), 0);
}

function plannedOf(step: Step): number {
  const { pressMs, betweenKeysMs, dragMoves, betweenMovesMs } = STEP_DEFAULTS;
  switch (step.do) {
    case 'click':
      return pressMs;
    case 'double-click':
      return 3 * pressMs;
    case 'wait':
      return step.ms;
    case 'type': {
      const letters = step.text === undefined ? (step.length ?? 0) : [...step.text].length;
      const pauses = Math.max(0, letters - 1) + (step.on === undefined ? 0 : 1);
      return (step.on === undefined ? 0 : pressMs) + pauses * (step.everyMs ?? betweenKeysMs);
    }
    case 'drag':
      return pressMs + (step.moves ?? dragMoves) * (step.everyMs ?? betweenMovesMs);
    default:
      return 0;
  }
}
