import type { WebSocket } from 'ws';

const BEAT_MS = 20_000;

/**
 * Ends connections whose other end is gone without a word: each is asked for a sign of life (RFC 6455, section
 * 5.5.2), which browsers give even while a page hangs.
 * @returns what ends the watch
 */
export function keepAlive(sockets: () => Iterable<WebSocket>, everyMs = BEAT_MS): () => void {
  const silent = new WeakSet<WebSocket>();
  const timer = setInterval(() => {
    for (const socket of sockets()) {
      if (silent.has(socket)) {
        socket.terminate();
        continue;
      }
      silent.add(socket);
      socket.once('pong', () => silent.delete(socket));
      socket.ping();
    }
  }, everyMs);
  timer.unref();
  return () => clearInterval(timer);
}
