import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RateLimiter, RateLimiters } from './rate-limiter';

describe('a rate limiter', () => {
  it('is used up by a burst and grows again with time', () => {
    const clock = { ms: 0 };
    const limiter = new RateLimiter({ burst: 3, perSecond: 2 }, () => clock.ms);
    expect([1, 2, 3, 4].map(() => limiter.take())).toEqual([true, true, true, false]);
    clock.ms = 500;
    expect([1, 2].map(() => limiter.take())).toEqual([true, false]);
    clock.ms = 60_000;
    expect(limiter.isFull).toBe(true);
    expect([1, 2, 3, 4].map(() => limiter.take())).toEqual([true, true, true, false]);
  });

  it('lets no more through than the burst and what has grown since, however they come', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(400), { maxLength: 200 }),
        fc.integer({ min: 1, max: 20 }),
        fc.integer({ min: 1, max: 20 }),
        (gaps, burst, perSecond) => {
          const clock = { ms: 0 };
          const limiter = new RateLimiter({ burst, perSecond }, () => clock.ms);
          let let_ = 0;
          for (const gap of gaps) {
            clock.ms += gap;
            if (limiter.take()) let_++;
          }
          expect(let_).toBeLessThanOrEqual(burst + (clock.ms / 1000) * perSecond + 1e-6);
        },
      ),
    );
  });

  it('is one for each address', () => {
    const clock = { ms: 0 };
    const limiters = new RateLimiters({ burst: 2, perSecond: 1 }, () => clock.ms);
    expect([1, 2, 3].map(() => limiters.take('192.168.1.7'))).toEqual([true, true, false]);
    expect(limiters.take('192.168.1.8')).toBe(true);
    clock.ms = 1000;
    expect(limiters.take('192.168.1.7')).toBe(true);
  });
});
