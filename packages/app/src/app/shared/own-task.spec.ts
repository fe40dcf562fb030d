import { describe, expect, it } from 'vitest';
import { inOwnTask } from './own-task';

describe('work in tasks of its own', () => {
  it('is done later, in order, and one piece a task', async () => {
    const log: string[] = [];
    inOwnTask(() => {
      log.push('first');
      queueMicrotask(() => log.push('after the first'));
    });
    inOwnTask(() => log.push('second'));
    expect(log).toEqual([]);
    await new Promise((resolve) => setTimeout(resolve, 30));
    inOwnTask(() => log.push('third'));
    await new Promise((resolve) => setTimeout(resolve, 30));
    expect(log).toEqual(['first', 'after the first', 'second', 'third']);
  });
});
