import { expect, test } from '@playwright/test';
import { readSteps, recordScript } from '../packages/server/dist/index.js';
import { localApp, type LocalApp } from './local-app';
import { contentOf, ENGINES, needs, recordingOf } from './scripted';

/** What is planted: each kind is a place where an app keeps, shows, sends or is told what is nobody else's business. */
const KINDS = `user password textarea editable open-shadow closed-shadow once-password card-number date search
  title page-text inline-state comment meta placeholder value-attribute data-attribute label alt link-query option
  page-query page-fragment script-query request-query request-body request-header answer-body cookie local-storage session-storage
  route-query route-state xhr-query image-query style-query frame-query frame-text message-data error-text console-text worker-query clipboard element-name`
  .split(/\s+/)
  .filter((kind) => kind !== '');
const secret = (kind: string) => `planted-${kind}-7Q`;

const FIELDS = `<input id="user" name="${secret('element-name')}"><input id="word" type="password"><textarea id="note"></textarea>
<div id="editable" contenteditable></div><div id="open"></div><div id="closed"></div><input id="once" type="password">
<input id="card" autocomplete="cc-number"><input id="find" type="search">`;

const page = () => `<!doctype html><html><head><meta charset="utf-8"><title>${secret('title')}</title>
<meta name="description" content="${secret('meta')}"><link rel="icon" href="data:,"><link rel="stylesheet" href="/look.css?v=${secret('style-query')}"></head>
<body data-owner="${secret('data-attribute')}"><!-- ${secret('comment')} --><p>${secret('page-text')}</p>
<template id="secrets">${JSON.stringify(Object.fromEntries(KINDS.map((kind) => [kind, secret(kind)])))}</template>
<script type="application/json" id="state">{"token":"${secret('inline-state')}"}</script>
<button id="go" aria-label="${secret('label')}">Go</button>${FIELDS}
<input id="asked" placeholder="${secret('placeholder')}" value="${secret('value-attribute')}">
<a id="link" href="#?word=${secret('link-query')}">${secret('page-text')}</a><select id="choice"><option>none</option><option>${secret('option')}</option></select>
<img src="/dot.svg?${secret('image-query')}" alt="${secret('alt')}"><script src="/app.js?v=${secret('script-query')}"></script></body></html>`;

/** Words are read from the page, as what stands in a script is code, which a recording holds. */
const APP = `
const S = JSON.parse(document.getElementById('secrets').textContent || document.getElementById('secrets').content.textContent);
const inputs = {};
for (const mode of ['open', 'closed']) {
  const root = document.getElementById(mode).attachShadow({ mode });
  root.innerHTML = '<input>';
  inputs[mode] = root.firstChild;
}
document.cookie = 'word=' + S.cookie;
localStorage.setItem('word', S['local-storage']);
sessionStorage.setItem('word', S['session-storage']);
function busy() { const end = performance.now() + 60; while (performance.now() < end); }
addEventListener('keydown', (event) => {
  if (event.key === 'PageUp') inputs.open.focus();
  if (event.key === 'PageDown') inputs.closed.focus();
  if (event.key === 'Escape') { const once = document.getElementById('once'); once.type = 'text'; once.focus(); }
});
document.getElementById('go').addEventListener('click', function onGo() {
  busy();
  fetch('/data?word=' + S['request-query'], { method: 'POST', body: S['request-body'], headers: { authorization: 'Bearer ' + S['request-header'] } })
    .then((answer) => answer.text()).then((text) => { document.getElementById('go').title = text; busy(); });
  history.pushState({ word: S['route-state'] }, '', '/next?word=' + S['route-query'] + '#' + S['page-fragment']);
  const xhr = new XMLHttpRequest(); xhr.open('GET', '/data?word=' + S['xhr-query']); xhr.onload = busy; xhr.send();
  const frame = document.createElement('iframe'); frame.src = '/frame?word=' + S['frame-query']; document.body.append(frame);
  const { port1, port2 } = new MessageChannel(); port2.onmessage = busy; port1.postMessage(S['message-data']);
  console.log(S['console-text']);
  setTimeout(() => { busy(); throw new Error(S['error-text']); });
  new Worker('/worker.js?word=' + S['worker-query']);
  document.title = S.title + ' again';
  document.getElementById('choice').selectedIndex = 1;
});
`;

const FILES: Readonly<Record<string, readonly [string, () => string]>> = {
  '/': ['text/html', page],
  '/next': ['text/html', page],
  '/app.js': ['text/javascript', () => APP],
  '/worker.js': [
    'text/javascript',
    () => 'const end = performance.now() + 60; while (performance.now() < end);',
  ],
  '/look.css': ['text/css', () => 'body { margin: 8px }'],
  '/dot.svg': ['image/svg+xml', () => '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'],
  '/data': ['text/plain', () => secret('answer-body')],
  '/frame': [
    'text/html',
    () => `<!doctype html><title>${secret('title')}</title><p>${secret('frame-text')}</p>`,
  ],
};

const type = (on: string, kind: string) => ({ do: 'type', on, text: secret(kind), everyMs: 5 });
const key = (name: string) => ({ do: 'key', key: name });
const STEPS = [
  type('#user', 'user'),
  type('#word', 'password'),
  type('#note', 'textarea'),
  type('#editable', 'editable'),
  type('#card', 'card-number'),
  type('#find', 'search'),
  type('#once', 'once-password'),
  key('Escape'),
  key('PageUp'),
  ...[...'planted-open'].map(key),
  key('PageDown'),
  ...[...'planted-closed'].map(key),
  { do: 'click', on: '#go' },
  { do: 'wait', ms: 900 },
];

let app: LocalApp;
let url: URL;

test.beforeAll(async () => {
  app = await localApp((request, response) => {
    const { pathname } = new URL(request.url!, 'http://localhost');
    const [kind, body] = FILES[pathname] ?? ['text/plain', () => ''];
    response.writeHead(200, { 'content-type': kind, 'set-cookie': `word=${secret('cookie')}` }).end(body());
  });
  url = new URL(`${app.url}?word=${secret('page-query')}`);
});
test.afterAll(() => {
  app.close();
});

/** What is written of a recording that must not be. */
function leaksOf(lines: readonly string[]): string[] {
  const recording = recordingOf(lines);
  const all = JSON.stringify([lines, contentOf(recording), [...recording.files]]);
  return [...new Set(all.match(/planted[\w-]*/gi))];
}

const WAYS = ENGINES.flatMap((engine) => (['everyday', 'exact'] as const).map((mode) => ({ engine, mode })));
for (const { engine, mode } of WAYS) {
  test(`${engine}, ${mode}: of ${KINDS.length} kinds of secrets none is in the recording`, async () => {
    needs(engine);
    expect(KINDS.length).toBeGreaterThanOrEqual(30);
    for (const steps of ['off', 'places'] as const) {
      const { lines, failure } = await recordScript({
        url,
        steps: readSteps(JSON.stringify({ steps: STEPS })),
        settings: { mode, steps },
        browser: engine,
        repeat: 1,
        startUp: true,
      });
      expect(failure).toBeUndefined();
      expect(lines.some((line) => line.includes('"kind":"request"'))).toBe(true);
      expect(leaksOf(lines)).toEqual([]);
      const letters = lines.filter(
        (line) => line.includes('"kind":"step"') && /\\"key\\":\\"[a-z]\\"/.test(line),
      );
      expect(letters).toEqual([]);
    }
  });
}
