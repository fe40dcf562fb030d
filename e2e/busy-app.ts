import { json } from 'node:stream/consumers';
import { localApp } from './local-app';

/** Functions that keep the thread for set times, in each way script can be entered. */
export const BUSY_MS = { inHandler: 90, inTimer: 60, inFrame: 45, inPromise: 70, inMicrotask: 35 } as const;

const SCRIPT = `
const took = {};
function spin(ms) {
  const from = performance.now();
  let took = 0;
  while ((took = performance.now() - from) < ms) Math.sqrt(from);
  return took;
}
${Object.entries(BUSY_MS)
  .map(([name, ms]) => `function ${name}() { took.${name} = spin(${ms}); }`)
  .join('\n')}
function startAll() {
  inHandler();
  setTimeout(inTimer, 150);
  setTimeout(() => requestAnimationFrame(inFrame), 400);
  setTimeout(() => fetch('/answer').then((answer) => answer.text()).then(inPromise), 600);
  setTimeout(() => queueMicrotask(inMicrotask), 900);
  setTimeout(() => fetch('/took', { method: 'POST', body: JSON.stringify({ took }) }), 1200);
}
function loopForever() {
  for (let ever = true; ever; ) spin(10);
}
document.getElementById('start').addEventListener('click', startAll);
document.getElementById('forever').addEventListener('click', function onForever() { fetch('/looping'); loopForever(); });
document.getElementById('login').addEventListener('submit', (event) => {
  event.preventDefault();
  document.cookie = 'session=cookie-secret';
  history.pushState(null, '', '/home?token=route-secret#fragment-secret');
  fetch('/answer?key=query-secret', { method: 'POST', headers: { authorization: 'Bearer header-secret' }, body: 'body-secret' })
    .then(() => { document.getElementById('out').textContent = 'Hello text-secret'; spin(60); });
});
globalThis.rows = document.getElementById('rows');
for (let row = 0; row < 4000; row++) rows.append(Object.assign(document.createElement('p'), { textContent: 'row ' + row }));
document.getElementById('restyle').addEventListener('click', () => rows.classList.toggle('other'));
const byHand = [];
async function restyleByHand() {
  await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve, 30)));
  rows.classList.toggle('other');
  const startMs = performance.now();
  void getComputedStyle(rows.lastElementChild).color;
  const styledMs = performance.now();
  void document.documentElement.offsetHeight;
  byHand.push({ styleMs: styledMs - startMs, layoutMs: performance.now() - styledMs });
  fetch('/took', { method: 'POST', body: JSON.stringify({ byHand }) });
}
const KEYS = { Home: () => rows.classList.toggle('other'), End: restyleByHand };
addEventListener('keydown', (event) => {
  if (!(event.key in KEYS)) return;
  event.preventDefault();
  // Input that is still under way would have style done before the frame.
  setTimeout(KEYS[event.key], 100);
});
`;

const PAGE = `<!doctype html><html><head><title>Quay clock title-secret</title><link rel="icon" href="data:,">
<style>#rows p { margin: 2px; float: left; width: 60px } #rows.other p { width: 64px; color: navy; box-shadow: 0 0 3px gray }</style></head>
<body><button id="start">Start</button> <button id="forever">Forever</button> <button id="restyle">Restyle</button>
<form id="login"><input id="user" name="user"><input id="word" type="password" name="word"><button>Go</button></form>
<output id="out">page-secret</output><div id="rows"></div><script>
globalThis.state = { crew: 'state-secret' };
function inPage() { for (const from = performance.now(); performance.now() < from + 30; ); }
document.getElementById('login').addEventListener('submit', function onInPage() { inPage(); });
</script><script src="/busy.js?v=version-secret"></script></body></html>`;

/** What restyling the rows of the page cost, as the page itself timed it. */
export interface Restyled {
  readonly styleMs: number;
  readonly layoutMs: number;
}

export interface BusyApp {
  readonly url: string;
  /** What each of the functions says that it took the last time: the set time, and what else the machine did. */
  readonly took: Readonly<Record<string, number>>;
  /** Each restyling that the key `End` has set going in the last page; `Home` leaves the work to the next frame. */
  readonly byHand: readonly Restyled[];
  /** When the last endless loop was begun, in ms since 1970; undefined where none was. */
  readonly loopsSince: number | undefined;
  close(): void;
}

/** A page made to be measured, with its server. */
export async function startBusyApp(): Promise<BusyApp> {
  let loopsSince: number | undefined;
  const told: { took: Record<string, number>; byHand: Restyled[] } = { took: {}, byHand: [] };
  const app = await localApp((request, response) => {
    if (request.url?.startsWith('/busy.js'))
      response.writeHead(200, { 'content-type': 'text/javascript' }).end(SCRIPT);
    else if (request.url === '/took') {
      void json(request).then((parts) => Object.assign(told, parts));
      response.end();
    } else if (request.url === '/looping') {
      loopsSince = Date.now();
      response.end();
    } else if (request.url?.startsWith('/answer')) response.end('ahoy');
    else {
      response.writeHead(200, { 'content-type': 'text/html', 'set-cookie': 'sid=server-secret' }).end(PAGE);
    }
  });
  return {
    url: app.url,
    get took() {
      return told.took;
    },
    get byHand() {
      return told.byHand;
    },
    get loopsSince() {
      return loopsSince;
    },
    close: app.close,
  };
}
