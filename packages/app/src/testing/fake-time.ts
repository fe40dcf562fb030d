import { afterEach, vi } from 'vitest';

afterEach(() => vi.useRealTimers());

/**
 * Has the time of operators such as `debounceTime`, which count by intervals, stand still to the end of the test; what
 * Angular waits for goes on. @returns lets so many milliseconds go by
 */
export function fakeTime(): (ms: number) => void {
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'Date'] });
  return (ms) => void vi.advanceTimersByTime(ms);
}
