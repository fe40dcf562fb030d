import {
  COUNTS,
  ENTER_WAITING,
  LEAVE_ROOT,
  LEAVE_ROOT_EXPRESSION,
  LEAVE_WAITING,
  LEAVE_WAITING_EXPRESSION,
  LOOK,
  LOOK_AT_CALL,
  OPEN_CALLS,
} from '@nettle-patch/core';
import { provideGlobals } from '../provide-globals';
import type { LookSampler } from './look-sampler';

/** Provides what scripts use that were rewritten for fine mode. */
export function provideLooks(sampler: LookSampler): void {
  const enterWaiting: LookSampler['enterWaiting'] = (id, position) => sampler.enterWaiting(id, position);
  const leaveWaiting = () => sampler.leaveWaiting();
  provideGlobals({
    [OPEN_CALLS]: sampler.calls,
    [COUNTS]: sampler.counts,
    [LOOK]: () => sampler.look(),
    [LOOK_AT_CALL]: (id: number) => sampler.lookAtCall(id),
    [LEAVE_ROOT]: () => sampler.leaveRoot(),
    [LEAVE_ROOT_EXPRESSION]: () => sampler.leaveRoot(),
    [ENTER_WAITING]: enterWaiting,
    [LEAVE_WAITING]: leaveWaiting,
    [LEAVE_WAITING_EXPRESSION]: leaveWaiting,
  });
}
