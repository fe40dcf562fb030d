import { apply, now } from '../natives';
import type { RecordingSession } from '../session';

type AnyCallback = (this: unknown, ...args: never[]) => unknown;

/** Is told of what the recorder's own callbacks throw, and of when they began once they are over. */
interface Overseer {
  failed(error: unknown): void;
  ran(startMs: number): void;
}

let overseer: Overseer | undefined;

export function oversee(by: Overseer): void {
  overseer = by;
}

/** Has what fails, and what the recorder's own entries take, told to the session that runs. */
export function overseeInto(running: () => RecordingSession | undefined): void {
  oversee({
    failed: (error) => running()?.drop(`recorder failed: ${String(error)}`),
    ran: (startMs) => running()?.ranItself(startMs),
  });
}

/** Does a piece of the recorder's own work; whatever it throws stays here, so that the app never hears of it. */
export function guarded<T>(work: () => T): T | undefined {
  try {
    return work();
  } catch (error) {
    failed(error);
    return undefined;
  }
}

/** Takes what the recorder's own work threw, or a promise of it was rejected with. */
export function failed(error: unknown): void {
  overseer?.failed(error);
}

/** A callback of the recorder's own, which throws nothing and whose time is told. */
export function markInternal<F extends AnyCallback>(callback: F): F {
  return function (this: unknown, ...args: never[]) {
    const startMs = now();
    const result = guarded(() => apply(callback, this, args) as unknown);
    overseer?.ran(startMs);
    return result;
  } as F;
}
