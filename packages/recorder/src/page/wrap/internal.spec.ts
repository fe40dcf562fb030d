import { beforeEach, describe, expect, it } from 'vitest';
import { failed, guarded, markInternal, oversee } from './internal';

const failures: unknown[] = [];
const ran: number[] = [];

beforeEach(() => {
  failures.length = ran.length = 0;
  oversee({ failed: (error) => failures.push(error), ran: (startMs) => ran.push(startMs) });
});

describe('a callback of the recorder’s own', () => {
  it('throws nothing: what it threw is told to the recorder alone', () => {
    const callback = markInternal((): void => {
      throw new RangeError('cannot write -10100 as a varint');
    });
    expect(callback()).toBeUndefined();
    expect(String(failures)).toContain('-10100');
    expect(ran).toHaveLength(1);
  });

  it('gets what it is called with, and gives what it gives', () => {
    const callback = markInternal(function (this: unknown, by: number) {
      return [this, by];
    });
    expect(callback.call('deck', 3)).toEqual(['deck', 3]);
    expect(failures).toEqual([]);
  });
});

describe('a piece of the recorder’s own work', () => {
  it('gives what it gives, or nothing where it failed', async () => {
    expect(guarded(() => 4)).toBe(4);
    expect(
      guarded(() => {
        throw new Error('no');
      }),
    ).toBeUndefined();
    await Promise.reject(new Error('later')).catch(failed);
    expect(failures.map(String)).toEqual(['Error: no', 'Error: later']);
  });
});
