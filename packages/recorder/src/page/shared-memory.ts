/**
 * @returns whether memory can be shared with other threads. An engine may isolate a page (HTML, cross-origin isolation),
 * and still not offer what shares its memory (ECMA-262, `SharedArrayBuffer`)
 */
export const sharesMemory = (): boolean =>
  typeof SharedArrayBuffer === 'function' &&
  (globalThis as { crossOriginIsolated?: boolean }).crossOriginIsolated === true;

/** Numbers, all 0, in memory that other threads see too, or not. */
export function zeros(length: number, isShared = sharesMemory()): Int32Array {
  const bytes = length * Int32Array.BYTES_PER_ELEMENT;
  return new Int32Array(isShared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes));
}
