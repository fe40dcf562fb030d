import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';

const TRIES = 20;
export const LOOPBACK = '127.0.0.1';
export const MAX_PORT = 65_535;

export interface Listening {
  readonly port: number;
  /** The port that was asked for, when it was taken. */
  readonly takenPort?: number;
}

function listenOnce(server: Server, port: number, address: string): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, address, () => {
      server.off('error', reject);
      resolve((server.address() as AddressInfo).port);
    });
  });
}

/**
 * Listens at a port of an address, the loopback one if no other is given, or the next free one after it. Port 0 takes any free one.
 * @throws the error of the last try when none of the next 20 is free.
 */
export async function listenNear(server: Server, wantedPort: number, address = LOOPBACK): Promise<Listening> {
  for (let tried = 0; ; tried++) {
    try {
      const port = await listenOnce(server, wantedPort + tried, address);
      return tried === 0 ? { port } : { port, takenPort: wantedPort };
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE' || tried >= TRIES) throw error;
    }
  }
}
