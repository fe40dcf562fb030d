import { createServer } from 'node:net';
import { describe, expect, it } from 'vitest';
import { BrowserError } from './browser';
import { freePort, withPort } from './free-port';
import { Program } from './program';

const TAKEN = 'bind() failed: Address already in use (98)';

/** Starts a program that prints and ends, the first times with `failure`. */
function starting(failure: string, failures: number) {
  const starts = { count: 0 };
  const start = async () => {
    const says = starts.count++ < failures ? failure : 'listening';
    await new Program(process.execPath, ['-e', `console.log(${JSON.stringify(says)})`]).printed(
      /^listening$/m,
    );
    return 'open';
  };
  return { starts, start };
}

describe('withPort', () => {
  it('starts a program again whose port was taken by another', async () => {
    const { starts, start } = starting(TAKEN, 2);
    expect(await withPort(start)).toBe('open');
    expect(starts.count).toBe(3);
  });

  it('gives up, with what the program said, when its port is always taken', async () => {
    const { starts, start } = starting(TAKEN, Infinity);
    await expect(withPort(start)).rejects.toThrow(TAKEN);
    expect(starts.count).toBe(4);
  });

  it('does not start a program again that failed for another reason', async () => {
    const { starts, start } = starting('no display', 1);
    await expect(withPort(start)).rejects.toThrow(BrowserError);
    expect(starts.count).toBe(1);
  });
});

it('finds a port at which one can listen', async () => {
  const port = await freePort();
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  await new Promise((resolve) => server.close(resolve));
  expect(port).toBeGreaterThan(0);
});
