import { transfer } from 'comlink';

/** An answer whose typed arrays are handed over to the thread that asked, instead of copied. */
export function handedOver<T>(value: T): T {
  return transfer(value, [...buffersIn(value)]);
}

function buffersIn(value: unknown, found = new Set<ArrayBuffer>()): Set<ArrayBuffer> {
  if (ArrayBuffer.isView(value)) found.add(value.buffer as ArrayBuffer);
  else if (Array.isArray(value)) for (const item of value) buffersIn(item, found);
  else if (typeof value === 'object' && value !== null) {
    for (const item of Object.values(value)) buffersIn(item, found);
  }
  return found;
}
