import { createServer, type AddressInfo } from 'node:net';
import { BrowserError } from './browser';

const TRIES = 4;
const TAKEN = /address already in use/i;

/** A port of this computer that was free a moment ago. */
export async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  await new Promise((resolve) => server.close(resolve));
  return port;
}

/**
 * Starts a program that listens at a port, and once more where another program took the port before it could:
 * one that looks for a free port at one address may find it taken at the next.
 * @throws what `start` throws, where it has another reason or goes on throwing
 */
export async function withPort<T>(start: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await start();
    } catch (error) {
      if (tries === TRIES || !(error instanceof BrowserError) || !TAKEN.test(error.message)) throw error;
    }
  }
}
