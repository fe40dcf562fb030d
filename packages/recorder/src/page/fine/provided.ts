import {
  COUNTS,
  ENTER_AGAIN,
  ENTER_FINE,
  LEAVE_ROOT,
  LEAVE_ROOT_EXPRESSION,
  LEAVE_WAITING,
  LEAVE_WAITING_EXPRESSION,
  LOOK,
  LOOK_AT_CALL,
  LOOKS_TAKEN,
  OPEN_CALLS,
} from '@nettle-patch/core';
import { provideGlobals } from '../provide-globals';
import type { LookSampler } from './look-sampler';

/**
 * Provides what scripts use that were rewritten for fine mode.
 * @param isCloser whether a function is looked at closer, so that others may take the place of how calls begin and end
 */
export function provideLooks(sampler: LookSampler, isCloser: boolean): void {
  const enter: LookSampler['enter'] = (id) => sampler.enter(id);
  const leaveWaiting = () => sampler.leaveWaiting();
  provideGlobals({
    [OPEN_CALLS]: sampler.calls,
    [COUNTS]: sampler.counts,
    [LOOKS_TAKEN]: sampler.takesLooks,
    [LOOK]: sampler.look,
    [LOOK_AT_CALL]: sampler.lookAtCall,
    [LEAVE_ROOT]: sampler.leaveRoot,
    [LEAVE_ROOT_EXPRESSION]: sampler.leaveRoot,
    [ENTER_FINE]: isCloser ? enter : sampler.enter,
    [ENTER_AGAIN]: (id: number, position: number) => sampler.enterAgain(id, position),
    [LEAVE_WAITING]: leaveWaiting,
    [LEAVE_WAITING_EXPRESSION]: leaveWaiting,
  });
}
