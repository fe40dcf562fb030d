import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { scheduleTask } from './schedule-task';

describe('work in tasks of its own', () => {
  let frames: (() => void)[] = [];
  const frame = async () => {
    const due = frames;
    frames = [];
    due.forEach((callback) => callback());
    await vi.advanceTimersByTimeAsync(1);
  };

  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal('requestAnimationFrame', (callback: () => void) => frames.push(callback));
  });

  afterEach(() => {
    vi.unstubAllGlobals();
    vi.useRealTimers();
  });

  it('is done later, in order, and one piece a frame', async () => {
    const log: string[] = [];
    scheduleTask(() => {
      log.push('first');
      queueMicrotask(() => log.push('after the first'));
    });
    scheduleTask(() => log.push('second'));
    expect(log).toEqual([]);
    await frame();
    expect(log).toEqual(['first', 'after the first']);
    await frame();
    scheduleTask(() => log.push('third'));
    expect(log).toEqual(['first', 'after the first', 'second']);
    await frame();
    expect(log).toEqual(['first', 'after the first', 'second', 'third']);
  });

  it('goes on after what failed, which is reported', async () => {
    const log: string[] = [];
    scheduleTask(() => {
      throw new Error('aground');
    });
    scheduleTask(() => log.push('second'));
    frames.splice(0).forEach((callback) => callback());
    await expect(vi.advanceTimersByTimeAsync(1)).rejects.toThrow('aground');
    await frame();
    await vi.advanceTimersByTimeAsync(500);
    expect(log).toEqual(['second']);
    scheduleTask(() => log.push('third'));
    await vi.advanceTimersByTimeAsync(500);
    expect(log).toEqual(['second', 'third']);
  });

  it('is done also while the page gets no frames, each piece once', async () => {
    const log: string[] = [];
    scheduleTask(() => log.push('first'));
    scheduleTask(() => log.push('second'));
    await vi.advanceTimersByTimeAsync(500);
    expect(log).toEqual(['first', 'second']);
    await frame();
    expect(log).toEqual(['first', 'second']);
  });
});
