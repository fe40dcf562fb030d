/** A site of many pages, each with its own script. */
import { createServer } from 'node:http';
import { readFileSync } from 'node:fs';

const page = (
  title,
  script,
) => `<!doctype html><html lang="en"><head><title>${title}</title><link rel="icon" href="data:,">
<script>TELL_ERRORS</script></head><body><h1>${title}</h1><a id="deck" href="/deck">Deck</a>
<button id="weigh">Weigh</button><ul id="loads"></ul><script src="/${script}.js"></script></body></html>`;

createServer((request, response) => {
  const { pathname } = new URL(request.url, 'http://localhost');
  if (pathname.endsWith('.js')) {
    response.writeHead(200, { 'content-type': 'text/javascript' }).end(readFileSync('.' + pathname));
  } else {
    const body = pathname === '/deck' ? page('Deck', 'deck') : page('Quay', 'quay');
    response.writeHead(200, { 'content-type': 'text/html' }).end(body);
  }
}).listen(Number(process.argv[2]), '127.0.0.1');
