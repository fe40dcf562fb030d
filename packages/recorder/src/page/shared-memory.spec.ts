import { afterEach, describe, expect, it, vi } from 'vitest';
import { sharesMemory, zeros } from './shared-memory';

afterEach(() => vi.unstubAllGlobals());

describe('shared memory', () => {
  it('is used in pages that are isolated', () => {
    expect(sharesMemory()).toBe(false);
    expect(zeros(3).buffer).toBeInstanceOf(ArrayBuffer);
    vi.stubGlobal('crossOriginIsolated', true);
    expect(sharesMemory()).toBe(true);
    expect(zeros(3)).toEqual(new Int32Array(3));
    expect(zeros(3).buffer).toBeInstanceOf(SharedArrayBuffer);
    expect(zeros(3, false).buffer).toBeInstanceOf(ArrayBuffer);
  });

  it('is not used where the engine isolates the page and does not offer it', () => {
    vi.stubGlobal('crossOriginIsolated', true);
    vi.stubGlobal('SharedArrayBuffer', undefined);
    expect(sharesMemory()).toBe(false);
    expect(zeros(3)).toEqual(new Int32Array(3));
  });
});
