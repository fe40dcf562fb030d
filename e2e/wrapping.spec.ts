import { text } from 'node:stream/consumers';
import { expect, test } from '@playwright/test';
import { readSteps, recordScript, runSteps, openLocalBrowser } from '../packages/server/dist/index.js';
import { localApp } from './local-app';
import { ENGINES, needs } from './scripted';

/** What a program could notice of functions that were put in place of the browser's own. */
const CHECKS = `
function check() {
  const seen = {}; const log = []; const target = new EventTarget(); const fire = (type) => target.dispatchEvent(new Event(type));
  const handler = function (event) { log.push([this === target, event.type, arguments.length]); };
  target.addEventListener('a', handler); target.addEventListener('a', handler); fire('a'); target.removeEventListener('a', handler); fire('a');
  target.addEventListener('b', handler, { once: true }); fire('b'); fire('b');
  const object = { handleEvent(event) { log.push(['object', this === object, event.type]); } };
  target.addEventListener('c', object); fire('c'); object.handleEvent = () => log.push(['changed']); fire('c'); target.removeEventListener('c', object); fire('c');
  const abort = new AbortController(); target.addEventListener('d', handler, { signal: abort.signal }); fire('d'); abort.abort(); fire('d');
  target.addEventListener('e', handler, true); target.removeEventListener('e', handler, false); fire('e'); target.removeEventListener('e', handler, true); fire('e');
  target.addEventListener('f', null); target.removeEventListener('f', undefined);
  try { target.addEventListener('g', 5); } catch (error) { log.push([error instanceof TypeError]); }
  try { target.addEventListener('g'); } catch (error) { log.push([error instanceof TypeError]); }
  const passive = new Event('h', { cancelable: true }); target.addEventListener('h', (event) => event.preventDefault(), { passive: true }); target.dispatchEvent(passive); log.push([passive.defaultPrevented]);
  seen.listeners = log.splice(0);
  const div = document.createElement('div'); document.body.append(div);
  const onclick = function (event) { log.push([this === div, event.type]); return false; };
  div.onclick = onclick; log.push([div.onclick === onclick]); const click = new MouseEvent('click', { cancelable: true }); div.dispatchEvent(click); log.push([click.defaultPrevented]);
  div.onclick = null; log.push([div.onclick]); div.setAttribute('onclick', 'globalThis.inline = 1'); log.push([typeof div.onclick]); div.click(); log.push([globalThis.inline]);
  seen.properties = log.splice(0);
  seen.names = [setTimeout.name, setTimeout.length, fetch.name, addEventListener.name, Element.prototype.getBoundingClientRect.name, MutationObserver.name, requestAnimationFrame.length, history.pushState.length];
  seen.native = [setTimeout, fetch, EventTarget.prototype.addEventListener, Element.prototype.getBoundingClientRect, Function.prototype.toString, MutationObserver,
    Object.getOwnPropertyDescriptor(HTMLElement.prototype, 'offsetTop').get, history.pushState].map((f) => /\\[native code\\]/.test(Function.prototype.toString.call(f)));
  seen.classes = [new MutationObserver(() => {}) instanceof MutationObserver, new MutationObserver(() => {}).constructor === MutationObserver, new MessageChannel().constructor === MessageChannel];
  class Watcher extends MutationObserver { twice() { return 2; } } seen.derived = new Watcher(() => {}).twice();
  seen.keys = Object.keys(globalThis).filter((key) => key.startsWith('__np'));
  const order = []; const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
  const done = (async () => {
    setTimeout((a, b) => order.push(['timer', a, b]), 0, 1, 2); queueMicrotask(() => order.push('microtask')); Promise.resolve().then(() => order.push('promise'));
    const never = setTimeout(() => order.push('never'), 5); clearTimeout(never); const frame = requestAnimationFrame(() => order.push('no frame')); cancelAnimationFrame(frame);
    let ticks = 0; const interval = setInterval(() => { if (++ticks === 2) { clearInterval(interval); order.push('interval'); } }, 5);
    await wait(60); setTimeout('order_text = 1', 0); globalThis.order_text = 0; await wait(30); order.push(globalThis.order_text);
    const channel = new MessageChannel(); channel.port2.onmessage = (event) => order.push(['message', event.data, event.target === channel.port2]); channel.port1.postMessage('hi'); await wait(50);
    const caught = []; addEventListener('error', (event) => { caught.push(event.message.replace(/^Uncaught /, '')); event.preventDefault(); });
    setTimeout(() => { throw new Error('from a timer'); }, 0); target.addEventListener('x', () => { throw new Error('from a listener'); }); fire('x'); await wait(40); order.push(caught.map((m) => m.replace('Error: ', '')));
    const unhandled = []; addEventListener('unhandledrejection', (event) => { unhandled.push(event.reason.constructor.name); event.preventDefault(); });
    fetch('http://localhost:1/'); await wait(150); await fetch('http://localhost:1/').catch((error) => order.push(error.constructor.name)); await wait(50); order.push(unhandled);
    const answer = await fetch('/data'); order.push([answer instanceof Response, (await answer.json()).ok]);
    const xhr = new XMLHttpRequest(); await new Promise((resolve) => { xhr.onload = function () { order.push([this === xhr, xhr.responseText]); resolve(); }; xhr.open('GET', '/data'); xhr.send(); });
    const changes = await new Promise((resolve) => { new MutationObserver(function (records, observer) { resolve([records.length, observer === this]); }).observe(div, { attributes: true }); div.id = 'changed'; }); order.push(changes);
    return order;
  })();
  done.then((result) => { seen.order = result; return fetch('/seen', { method: 'POST', body: JSON.stringify(seen) }); }).then(() => { document.body.id = 'done'; });
}
document.getElementById('go').addEventListener('click', check);
`;

async function startApp() {
  const seen: unknown[] = [];
  const app = await localApp(async (request, response) => {
    if (request.url === '/seen') seen.push(JSON.parse(await text(request)));
    if (request.url === '/checks.js')
      response.writeHead(200, { 'content-type': 'text/javascript' }).end(CHECKS);
    else if (request.url === '/data')
      response.writeHead(200, { 'content-type': 'application/json' }).end('{"ok":true}');
    else {
      response.writeHead(200, { 'content-type': 'text/html' });
      response.end(
        '<!doctype html><title>Checks</title><link rel="icon" href="data:,"><body><button id="go">Go</button><script src="/checks.js"></script>',
      );
    }
  });
  return { ...app, seen };
}

for (const engine of ENGINES) {
  test(`${engine}: a page cannot tell that its functions are watched`, async () => {
    needs(engine);
    const app = await startApp();
    const steps = readSteps('{"steps":[{"do":"click","on":"#go"},{"do":"wait-for","on":"#done"}]}');
    const browser = await openLocalBrowser(engine);
    await browser.navigate(app.url);
    await runSteps(browser, steps, (address) => address);
    await browser.close();
    for (const mode of ['everyday', 'exact'] as const) {
      const { failure, lines } = await recordScript({
        url: new URL(app.url),
        steps,
        settings: { mode },
        browser: engine,
        repeat: 1,
      });
      expect(failure).toBeUndefined();
      expect(lines.some((line) => line.includes('"BUTTON#go.onclick"'))).toBe(true);
    }
    const [alone, ...watched] = app.seen;
    expect(watched).toHaveLength(2);
    for (const seen of watched) expect(seen).toEqual(alone);
    app.close();
  });
}
