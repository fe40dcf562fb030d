/** A page of a general-purpose widget library: a table of all passengers that is sorted by a click on its head. */
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';

const ROWS = 6000;
const file = (path) =>
  readFileSync(new URL(`../../node_modules/tabulator-tables/dist/${path}`, import.meta.url));

const PAGE = `<!doctype html><html><head><title>Passengers</title><link rel="icon" href="data:,">
<link rel="stylesheet" href="/table.css"><script src="/table.js"></script></head><body><div id="table"></div><script>
const ports = ['Holm', 'Tangay', 'Brinsay', 'Eastre', 'Saltwick', 'Morrisk'];
const data = Array.from({ length: ${ROWS} }, (_, id) => ({ id, name: 'Passenger ' + ((id * 7919) % ${ROWS}), port: ports[(id * 31) % 6], seat: (id * 17) % 240 }));
const table = new Tabulator('#table', { data, height: 600, columns: [{ title: 'Name', field: 'name' }, { title: 'Port', field: 'port' }, { title: 'Seat', field: 'seat' }] });
table.on('tableBuilt', () => document.body.setAttribute('data-ready', ''));
</script></body></html>`;

export function createWidgetServer() {
  const files = {
    '/table.js': ['text/javascript', file('js/tabulator.min.js')],
    '/table.css': ['text/css', file('css/tabulator.min.css')],
  };
  return createServer((request, response) => {
    const [type, body] = files[request.url] ?? ['text/html', PAGE];
    response.writeHead(200, { 'content-type': `${type}; charset=utf-8` }).end(body);
  });
}
