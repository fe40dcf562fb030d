/** How often something may happen: so often at once, and then as much again in a set time. */
export interface Rate {
  readonly burst: number;
  readonly perSecond: number;
}

/** Wrong secrets of one address: pages of a run before try a few times. */
export const WRONG_SECRETS: Rate = { burst: 60, perSecond: 2 };

/** Counts what happens against a rate (token bucket). */
export class RateLimiter {
  #left: number;
  #atMs: number;

  /** @param now clock, in milliseconds */
  constructor(
    private readonly rate: Rate,
    private readonly now: () => number = () => performance.now(),
  ) {
    this.#left = rate.burst;
    this.#atMs = now();
  }

  /** Takes one off. @returns whether there was one left */
  take(): boolean {
    this.#refill();
    if (this.#left < 1) return false;
    this.#left--;
    return true;
  }

  /** Whether nothing has happened for so long that this need not be remembered. */
  get isFull(): boolean {
    this.#refill();
    return this.#left >= this.rate.burst;
  }

  #refill(): void {
    const nowMs = this.now();
    this.#left = Math.min(this.rate.burst, this.#left + ((nowMs - this.#atMs) / 1000) * this.rate.perSecond);
    this.#atMs = nowMs;
  }
}

/** Those remembered at once; beyond, all are forgotten that have done nothing lately. */
const MAX_REMEMBERED = 1000;

/** Limits of those who come by some address, for what only an attacker does often. */
export class RateLimiters {
  readonly #of = new Map<string, RateLimiter>();

  constructor(
    private readonly rate: Rate,
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** Takes one off what an address has. @returns whether there was one left */
  take(address: string): boolean {
    let limiter = this.#of.get(address);
    if (limiter === undefined) {
      this.#forgetIdle();
      this.#of.set(address, (limiter = new RateLimiter(this.rate, this.now)));
    }
    return limiter.take();
  }

  #forgetIdle(): void {
    if (this.#of.size < MAX_REMEMBERED) return;
    for (const [address, limiter] of this.#of) if (limiter.isFull) this.#of.delete(address);
  }
}
