/** A server of its own process, which tells where it is and, when asked, how much memory it takes. */
import { serve } from '../../packages/server/dist/index.js';

const { interfaceOrigin, proxyOrigin, secret } = await serve({
  target: process.argv[2],
  port: 0,
  proxyPort: 0,
});
process.send({ interfaceOrigin, proxyOrigin, secret });
process.on('message', () => {
  globalThis.gc?.();
  process.send({ bytes: process.memoryUsage().rss, heap: process.memoryUsage().heapUsed });
});
