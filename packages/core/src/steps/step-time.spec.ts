import { describe, expect, it } from 'vitest';
import { plannedMs } from './step-time';

describe('the time that steps take by themselves', () => {
  it('is that of their waits, and of the pauses between keys and moves', () => {
    expect(plannedMs([{ do: 'wait', ms: 1200 }])).toBe(1200);
    expect(plannedMs([{ do: 'type', text: 'hak', everyMs: 100 }])).toBe(200);
    expect(plannedMs([{ do: 'type', on: '#search-manifest', length: 3, everyMs: 100 }])).toBe(340);
    expect(plannedMs([{ do: 'drag', on: '#deck', by: { x: 9, y: 0 }, moves: 5, everyMs: 10 }])).toBe(90);
  });

  it('adds up over all of them, and is nothing for what takes none', () => {
    expect(
      plannedMs([
        { do: 'wait', ms: 5 },
        { do: 'hover', on: '#a' },
        { do: 'wait', ms: 7 },
      ]),
    ).toBe(12);
    expect(plannedMs([])).toBe(0);
  });
});
