import { buffersIn } from '@nettle-patch/core';
import { transfer } from 'comlink';

/** An answer whose typed arrays are handed over to the thread that asked, instead of copied. */
export function transferResult<T>(value: T): T {
  return transfer(value, [...buffersIn(value)]);
}
