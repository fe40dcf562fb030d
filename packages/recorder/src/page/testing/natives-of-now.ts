import type * as natives from '../natives';

type Natives = typeof natives;

/** The engine's functions as they are when they are called, which tests may set, in place of those as they were first. */
export function nativesOfNow(actual: Natives): Natives {
  return {
    ...actual,
    now: () => performance.now(),
    setTimeout: ((...args: Parameters<typeof setTimeout>) => setTimeout(...args)) as typeof setTimeout,
    setInterval: ((...args: Parameters<typeof setInterval>) => setInterval(...args)) as typeof setInterval,
    clearInterval: (handle) => {
      clearInterval(handle);
    },
  };
}
