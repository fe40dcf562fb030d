import { ENTER, LEAVE, LEAVE_EXPRESSION, REGISTER, withoutInsertions } from '@nettle-patch/core';
import { provideGlobals } from '../provide-globals';
import { shared } from '../shared';
import type { TimedCalls } from './timed-calls';

/** Takes what a rewritten script tells of its functions when it begins to run. */
export type Register = (firstId: number, registration: string) => void;

/** The same with the number of its functions, which is told in fine mode. */
type RegisterScript = (firstId: number, registration: string, functionCount?: number) => void;

/** Provides the functions that rewritten scripts call, and has functions show their text without those calls. */
export function provideCalls({ enter, leave }: TimedCalls, register: RegisterScript): void {
  provideGlobals({
    [ENTER]: enter,
    [LEAVE]: leave,
    [LEAVE_EXPRESSION]: leave,
    [REGISTER]: register,
  });
  shared.asWritten = withoutInsertions;
}
