/**
 * Has a server listen on a free port of this computer.
 * @template {import('node:http').Server} Server
 * @param {Server} server
 * @returns where it is, the address of its first page, and what ends it and the connections that are open
 */
export async function listening(server) {
  await new Promise((resolve) => server.listen(0, '127.0.0.1', () => resolve(undefined)));
  const { port } = /** @type {import('node:net').AddressInfo} */ (server.address());
  const origin = `http://localhost:${port}`;
  return {
    origin,
    url: `${origin}/`,
    close() {
      server.close();
      server.closeAllConnections();
    },
  };
}
