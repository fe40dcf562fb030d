import type { AddressInfo } from 'node:net';
import { createDeskServer } from './desk-server';

const TRIES = 20;

/** Starts the desk at a port, or the next free one, and says which. */
function listen(wanted: number, tried: number): void {
  const server = createDeskServer();
  server.once('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE' && tried < TRIES) listen(wanted, tried + 1);
    else throw error;
  });
  server.listen(wanted + tried, '127.0.0.1', () => {
    const { port } = server.address() as AddressInfo;
    if (tried > 0) console.log(`Port ${wanted} is in use, so the boarding desk took ${port}.`);
    console.log(`Boarding desk: http://localhost:${port}/`);
  });
}

listen(Number(process.argv[2] ?? 4790), 0);
