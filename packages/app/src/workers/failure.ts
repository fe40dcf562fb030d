import { RefusedRecordingError, type RefusalCode } from '@nettle-patch/core';
import { StoreFullError } from '../store/recording-store';

/** Why work could not be done, in a form that passes from a worker to the interface. */
export interface Failure {
  readonly code:
    | RefusalCode
    | 'bad-steps'
    | 'bad-trial'
    | 'is-budget'
    | 'store-full'
    | 'not-kept'
    | 'analysis-ended'
    | 'recording-ended'
    | 'unexpected';
  readonly detail: string;
}

export function failureOf(error: unknown): Failure {
  if (error instanceof RefusedRecordingError) return { code: error.code, detail: error.detail };
  if (error instanceof StoreFullError) return { code: 'store-full', detail: error.message };
  const { name, message } = error as Error;
  return { code: name === 'NotKeptError' ? 'not-kept' : 'unexpected', detail: message };
}
