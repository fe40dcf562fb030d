/** An app whose every answer is given by its address: of any status, kind and coding, some cut off, some no HTML at all. */
import { createServer } from 'node:http';
import { deflateRawSync, brotliCompressSync, gzipSync } from 'node:zlib';
import { listening } from '../../scripts/lib/listening.mjs';

/** Numbers from a seed, so that an address answers the same each time (mulberry32). */
function numbersFrom(seed) {
  let state = seed >>> 0;
  return (below) => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) % below;
  };
}

const SCRIPTS = [
  'globalThis.log?.push("plain"); setTimeout(() => log.push("later"), 5);',
  'globalThis.log?.push("async"); (async () => { await null; log.push(await Promise.resolve("awaited")); })();',
  'log.push("throws"); throw new RangeError("own error");',
  'log.push("rejects"); Promise.reject(new TypeError("own rejection"));',
  'function ( {',
  '"use strict"; log.push(typeof (function () { return this; })());',
  '-->\nlog.push("arrow comment");',
  `log.push(${'('.repeat(900)}1${')'.repeat(900)});`,
  `log.push(${Array.from({ length: 900 }, (_, at) => at).join('+')});`,
  'class Ferry { #lane = 3; static docks = 2; get lane() { return this.#lane; } *all() { yield* [1, 2]; } } log.push(new Ferry().lane, [...new Ferry().all()].length);',
  'document.body.append(Object.assign(document.createElement("p"), { textContent: "added" })); log.push(document.body.lastChild.offsetHeight >= 0);',
  'const root = document.createElement("div").attachShadow({ mode: "closed" }); root.innerHTML = "<i>x</i>"; log.push(root.childNodes.length);',
  'fetch("/data/7").then((answer) => answer.text()).then((text) => log.push(text.length), (error) => log.push(error.name));',
  'new MutationObserver((records, self) => { log.push(records.length); self.disconnect(); }).observe(document.body, { childList: true }); document.body.append("!");',
  'addEventListener("click", { handleEvent() { log.push("clicked"); } }); addEventListener("keydown", (event) => log.push(event.key));',
  'const { port1, port2 } = new MessageChannel(); port2.onmessage = ({ data }) => log.push(data); port1.postMessage("message");',
  'var a; function a() {} log.push(typeof a); eval("var g = 1"); log.push(typeof g);',
  'requestAnimationFrame(function frame() { log.push("frame"); });',
  'const worker = new Worker("/worker.js"); worker.onmessage = ({ data }) => { log.push(data); worker.terminate(); }; worker.onerror = (event) => { event.preventDefault(); log.push("worker failed"); };',
  'document.body.append(Object.assign(document.createElement("iframe"), { srcdoc: "<p>frame" }));',
];
const POLICIES = [
  undefined,
  undefined,
  "default-src 'self' 'unsafe-inline'",
  "script-src 'self' 'nonce-abc' 'unsafe-inline'",
  "default-src 'self'; script-src 'self' 'unsafe-inline' 'unsafe-eval'; connect-src 'self'",
  "require-trusted-types-for 'script'",
];
const STATUSES = [200, 200, 200, 200, 201, 404, 410, 500, 503];
const TYPES = [
  'text/html',
  'text/html; charset=utf-8',
  'text/html;charset=iso-8859-1',
  'application/xhtml+xml',
  'text/plain',
  '',
];
const ODD_HEADERS = [
  ['x-odd', 'a'.repeat(4000)],
  ['link', '</look.css>; rel=preload; as=style'],
  ['cache-control', 'public, max-age=31536000, immutable'],
  ['set-cookie', 'lane=3; Path=/'],
  ['vary', '*'],
  ['x-content-type-options', 'nosniff'],
  ['cross-origin-opener-policy', 'same-origin'],
  ['content-disposition', 'inline; filename="quay.html"'],
  ['server-timing', 'db;dur=53'],
];

function pageOf(next) {
  const scripts = Array.from({ length: 1 + next(4) }, () => SCRIPTS[next(SCRIPTS.length)]);
  const tags = scripts.map((script, at) =>
    next(2) === 0
      ? `<script src="/script/${SCRIPTS.indexOf(script)}${next(2) === 0 ? '.js' : ''}?v=${at}"></script>`
      : `<script${next(3) === 0 ? ' type="module"' : ''}>${script}</script>`,
  );
  const [open, close] =
    next(6) === 0
      ? ['', '']
      : [
          '<!doctype html><html><head><meta charset="utf-8"><title>Quay</title></head><body>',
          '</body></html>',
        ];
  return `${open}<link rel="icon" href="data:,"><script>globalThis.log = [];</script><button id="go">Go</button><input id="text">${tags.join('\n')}${close}`;
}

function coded(body, next) {
  const bytes = Buffer.from(body);
  const [coding, made] = [
    [undefined, bytes],
    [undefined, bytes],
    ['gzip', gzipSync(bytes)],
    ['br', brotliCompressSync(bytes)],
    ['deflate', deflateRawSync(bytes)],
  ][next(5)];
  return { coding, bytes: made };
}

function answerPage(next, response) {
  const { coding, bytes } = coded(pageOf(next), next);
  const headers = { 'content-type': TYPES[next(4)] };
  const policy = POLICIES[next(POLICIES.length)];
  if (policy !== undefined) headers['content-security-policy'] = policy;
  if (coding !== undefined) headers['content-encoding'] = coding;
  for (let count = next(3); count > 0; count--) {
    const [name, value] = ODD_HEADERS[next(ODD_HEADERS.length)];
    headers[name] = value;
  }
  const status = STATUSES[next(STATUSES.length)];
  const fault = next(14);
  if (fault === 0) response.destroy();
  else if (fault === 1) response.writeHead(302, { location: `/page/${next(1000)}` }).end();
  else if (fault === 2) {
    response.writeHead(status, { ...headers, 'content-length': bytes.length });
    response.write(bytes.subarray(0, bytes.length >> 1), () => response.destroy());
  } else {
    response.writeHead(status, headers);
    response.write(bytes.subarray(0, bytes.length >> 1));
    setTimeout(() => response.end(bytes.subarray(bytes.length >> 1)), next(30));
  }
}

/** @returns a server that listens on a free port of this computer */
export async function createWeatherApp() {
  const server = createServer((request, response) => {
    const [, kind, seed = '0'] = /^\/(\w*)\/?(\d*)/.exec(request.url) ?? [];
    const next = numbersFrom(Number(seed) + 1);
    if (kind === 'page') answerPage(next, response);
    else if (kind === 'script')
      response.writeHead(200, { 'content-type': 'text/javascript' }).end(SCRIPTS[Number(seed)] ?? '');
    else if (kind === 'worker')
      response
        .writeHead(200, { 'content-type': 'text/javascript' })
        .end('postMessage([1].map((n) => n + 1).join());');
    else if (kind === 'data')
      response
        .writeHead(STATUSES[next(STATUSES.length)], { 'content-type': TYPES[next(TYPES.length)] || 'x' })
        .end('x'.repeat(next(5000)));
    else response.writeHead(404).end('There is none.');
  });
  return listening(server);
}
