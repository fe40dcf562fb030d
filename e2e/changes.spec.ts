import { chromium, expect, test } from '@playwright/test';
import { serve } from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from '../scripts/lib/browser.mjs';
import { localApp, type LocalApp } from './local-app';
import { ENGINES, needs, recordIn } from './scripted';

const CHANGES = 20_000;
const PAGE = `<!doctype html><html><head><meta charset="utf-8"><title>Lanes</title><link rel="icon" href="data:,"></head><body>
<button id="go">Go</button><button id="call">Call</button><output id="radio"></output><ul id="lanes" data-testid="lanes"></ul><script>
  const lanes = document.getElementById('lanes');
  lanes.innerHTML = '<li>Lane</li>'.repeat(200);
  document.getElementById('go').addEventListener('click', function onGo() {
    for (let turn = 0; turn < ${CHANGES}; turn++) lanes.children[turn % 200].setAttribute('title', 'Lane ' + turn);
    lanes.style.width = '50%';
    globalThis.height = lanes.offsetHeight;
  });
  const log = document.createElement('ol');
  log.style.cssText = 'position: absolute; top: -9000px';
  log.innerHTML = '<li>Turn</li>'.repeat(300);
  document.body.append(log);
  const call = document.getElementById('call');
  call.addEventListener('click', function keepLog() {
    for (const row of log.children) row.firstChild.data = 'Turn ' + Math.random();
  });
  call.addEventListener('click', function answerRadio() {
    document.getElementById('radio').textContent = 'Calling cabin 12';
  });
  globalThis.shadows = [];
  globalThis.plant = (count) => {
    for (let at = 0; at < count; at++) shadows.push(new WeakRef(document.createElement('div').attachShadow({ mode: at % 2 ? 'open' : 'closed' })));
  };
</script></body></html>`;

let app: LocalApp;

test.beforeAll(async () => {
  app = await localApp((_request, response) =>
    response.writeHead(200, { 'content-type': 'text/html' }).end(PAGE),
  );
});
test.afterAll(() => {
  app.close();
});

for (const engine of ENGINES) {
  test(`${engine}: of very many changes at once some are looked at and the others counted, and layout forced after them is told`, async () => {
    needs(engine);
    const go = [
      { do: 'click', on: '#go' },
      { do: 'wait', ms: 600 },
    ];
    const recording = await recordIn(engine, app.url, 'everyday', [{ do: 'wait', ms: 300 }, ...go, ...go]);
    const redraws = [...recording.events.redraw.rows()];
    const changes = redraws.reduce((sum, { attributes, more = 0 }) => sum + attributes + more, 0);
    expect(changes).toBeGreaterThan(2 * CHANGES * 0.99);
    expect(changes).toBeLessThan(2 * CHANGES * 1.01);
    const forced = [...recording.events.forced.rows()].filter(({ read }) => read === 'offsetHeight');
    expect(forced).toHaveLength(2);
    expect(forced.every(({ count }) => count === 1)).toBe(true);
  });
}

for (const engine of ENGINES) {
  test(`${engine}: what one writes in view is told so, however much another writes out of view before the same frame`, async () => {
    needs(engine);
    const recording = await recordIn(engine, app.url, 'everyday', [
      { do: 'wait', ms: 300 },
      { do: 'click', on: '#call' },
      { do: 'wait', ms: 600 },
    ]);
    const redraws = [...recording.events.redraw.rows()];
    expect(redraws.find(({ texts, more = 0 }) => texts + more === 300)).toMatchObject({ inView: false });
    const answer = redraws.filter(({ target }) => target?.includes('Radio'));
    expect(answer).toMatchObject([{ nodes: 1, changed: true, inView: true }]);
  });
}

test('shadow trees that the page has given up are collected, and watched no more', async () => {
  const running = await serve({ target: app.origin, port: 0, proxyPort: 0 });
  const browser = await chromium.launch({
    executablePath: chromiumPath,
    args: [...chromiumFlags, '--js-flags=--expose-gc'],
  });
  const page = await browser.newPage();
  await page.goto(running.proxyOrigin);
  const left = await page.evaluate(async () => {
    const { plant, shadows, gc } = globalThis as unknown as {
      plant(count: number): void;
      shadows: WeakRef<ShadowRoot>[];
      gc(options: { type: string; execution: string }): Promise<void>;
    };
    plant(1000);
    for (let turn = 0; turn < 3; turn++) {
      await new Promise((resolve) => setTimeout(resolve, 20));
      await gc({ type: 'major', execution: 'async' });
    }
    return shadows.filter((shadow) => shadow.deref() !== undefined).length;
  });
  await browser.close();
  running.close();
  expect(left).toBeLessThan(10);
});
