import { describe, expect, it } from 'vitest';
import { emptyState } from './empty-state';

const say = (available: string[], inputs: number[], limited = false) => {
  const { title, lines } = emptyState(
    { header: { available, target: { engine: 'Gecko 153' } } as never, inputs },
    limited,
  );
  return [title, ...lines].join(' ');
};

describe('a recording without stings', () => {
  it('is praised only for what the browser was able to see', () => {
    expect(say(['event', 'longtask'], [5])).toBe(
      'No stings Every input that was seen was answered within its budget, and no task was long.',
    );
    expect(say(['event'], [5])).toContain('does not report long tasks, so only inputs were looked at');
    expect(say(['mark'], [])).toMatch(/^Delays were not measured Gecko 153 reports neither/);
    expect(say(['mark'], [], true)).toMatch(/^Delays were not measured/);
  });

  it('without an input says what to do', () => {
    expect(say(['event', 'longtask'], [])).toContain('use the page while recording');
  });
});
