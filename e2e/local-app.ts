import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';

/** An app to be recorded, on a free port of this computer. */
export interface LocalApp {
  readonly origin: string;
  /** Address of its first page. */
  readonly url: string;
  /** Ends it, and the connections that are open. */
  close(): void;
}

/** Serves an app until it is closed. */
export async function localApp(answer: RequestListener): Promise<LocalApp> {
  const server = createServer(answer);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const origin = `http://localhost:${(server.address() as AddressInfo).port}`;
  return {
    origin,
    url: `${origin}/`,
    close() {
      server.close();
      server.closeAllConnections();
    },
  };
}
