import type { Capture } from './page/capture/capture';
import { OFFERED } from './page/offered';

/** Offers a capture to the recorder, which comes after this and takes what is there. */
export function offerCapture(capture: Capture): void {
  const scope = globalThis as { [OFFERED]?: Capture[] };
  (scope[OFFERED] ??= []).push(capture);
}
