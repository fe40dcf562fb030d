import type { AddressInfo } from 'node:net';
import { createDeskServer } from './desk-server';

const TRIES = 20;

/** Starts the desk at a port given as the only argument, or the next free one, and prints its address. */
function listen(port: number, tries: number): void {
  const server = createDeskServer();
  server.once('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE' && tries > 0) listen(port + 1, tries - 1);
    else throw error;
  });
  server.listen(port, '127.0.0.1', () => {
    console.log(`Boarding desk: http://localhost:${(server.address() as AddressInfo).port}/`);
  });
}

listen(Number(process.argv[2] ?? 4790), TRIES);
