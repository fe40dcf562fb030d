import type { Capture } from './capture/capture';

/** Where a script that comes before the recorder leaves captures for it. */
const OFFERED = Symbol.for('nettle-patch captures');
const scope = globalThis as { [OFFERED]?: Capture[] };

/** Offers a capture to the recorder, which comes after this and takes what is there. */
export function offerCapture(capture: Capture): void {
  (scope[OFFERED] ??= []).push(capture);
}

/** What has been offered; it is offered once. */
export function takeOffered(): readonly Capture[] {
  const offered = scope[OFFERED] ?? [];
  Reflect.deleteProperty(scope, OFFERED);
  return offered;
}
