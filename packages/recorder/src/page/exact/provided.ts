import { ENTER, LEAVE, LEAVE_EXPRESSION, REGISTER, withoutInsertions } from '@nettle-patch/core';
import { provideGlobals } from '../provide-globals';
import { shared } from '../shared';
import type { CallEventBuffer } from './call-event-buffer';

/** Takes what a rewritten script tells of its functions when it begins to run. */
export type Register = (firstId: number, registration: string) => void;

/** The same with the number of its functions, which is told in fine mode. */
type RegisterScript = (firstId: number, registration: string, functionCount?: number) => void;

/** Provides the functions that rewritten scripts call, and has functions show their text without those calls. */
export function provideCalls(ring: CallEventBuffer, register: RegisterScript): void {
  provideGlobals({
    [ENTER]: ring.enter,
    [LEAVE]: ring.leave,
    [LEAVE_EXPRESSION]: ring.leave,
    [REGISTER]: register,
  });
  shared.asWritten = withoutInsertions;
}
