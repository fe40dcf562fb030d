import { beforeEach, expect, it, vi } from 'vitest';
import { takeRecording, untilFree } from './recording-lock';

/** Locks as browsers give them (W3C Web Locks), as far as they are used. */
function fakeLocks() {
  const held = new Set<string>();
  const waiting: (() => void)[] = [];
  const request = async (
    name: string,
    { ifAvailable = false }: LockOptions,
    use: (lock: object | null) => Promise<void> | undefined,
  ) => {
    if (held.has(name)) {
      if (ifAvailable) return use(null);
      await new Promise<void>((resolve) => waiting.push(resolve));
    }
    held.add(name);
    await use({});
    held.delete(name);
    waiting.shift()?.();
  };
  return { request };
}

beforeEach(() => vi.stubGlobal('navigator', { locks: fakeLocks() }));

it('gives the right to write a recording to one tab at a time', async () => {
  const release = await takeRecording('friday');
  expect(release).toBeTypeOf('function');
  expect(await takeRecording('friday')).toBeUndefined();
  expect(await takeRecording('saturday')).toBeTypeOf('function');
  release!();
  expect(await takeRecording('friday')).toBeTypeOf('function');
});

it('waits for a tab that is still ending, as when the tool is loaded again', async () => {
  const release = await takeRecording('friday');
  setTimeout(release!, 300);
  expect(await takeRecording('friday')).toBeTypeOf('function');
});

it('tells when another tab has given it up', async () => {
  const release = await takeRecording('friday');
  let isFree = false;
  const free = untilFree('friday').then(() => (isFree = true));
  await new Promise((resolve) => setTimeout(resolve, 20));
  expect(isFree).toBe(false);
  release!();
  await free;
  expect(await takeRecording('friday')).toBeTypeOf('function');
});
