import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { serve } from '../packages/server/dist/index.js';
import { localApp } from './local-app';

const bundle = (path: string) => readFileSync(new URL(`../node_modules/${path}`, import.meta.url));

/** General-purpose libraries as they are shipped: a framework, dates, templates, charts, an editor. */
const BUNDLES: Readonly<Record<string, Buffer>> = {
  '/vue.js': bundle('vue/dist/vue.global.prod.js'),
  '/luxon.js': bundle('luxon/build/global/luxon.min.js'),
  '/handlebars.js': bundle('handlebars/dist/handlebars.js'),
  '/chart.js': bundle('chart.js/dist/chart.umd.js'),
  '/quill.js': bundle('quill/dist/quill.js'),
};

const PAGE = `<!doctype html><html><head><title>Ship's library</title><link rel="icon" href="data:,"></head><body>
<div id="app"></div><canvas id="chart" width="300" height="150"></canvas><div id="editor"></div>
${Object.keys(BUNDLES)
  .map((path) => `<script src="${path}"></script>`)
  .join('')}
<script>
  globalThis.smoke = async () => {
    const seen = {};
    const app = Vue.createApp({
      data: () => ({ lanes: [1, 2] }),
      computed: { sum() { return this.lanes.reduce((a, b) => a + b, 0); } },
      template: '<ul><li v-for="lane in lanes" :key="lane" @click="lanes.push(lane * 10)">{{ lane }}</li></ul><b>{{ sum }}</b>',
    });
    app.mount('#app');
    document.querySelector('#app li').click();
    await Vue.nextTick();
    seen.vue = document.getElementById('app').textContent;
    const sails = luxon.DateTime.fromISO('2026-11-27T12:40:00', { zone: 'utc' });
    seen.luxon = [sails.plus({ hours: 13 }).toFormat('cccc d LLLL, HH:mm'), sails.diff(sails.minus({ days: 2 }), 'hours').hours];
    seen.handlebars = Handlebars.compile('{{#each ports}}{{@index}} {{this}}{{#unless @last}}, {{/unless}}{{/each}}')({ ports: ['Holm', 'Tangay'] });
    const chart = new Chart('chart', { type: 'line', data: { labels: [1, 2, 3], datasets: [{ data: [1, 4, 2] }] }, options: { animation: false } });
    const pixels = document.getElementById('chart').getContext('2d').getImageData(0, 0, 300, 150).data;
    seen.chart = [chart.scales.y.max, pixels.some((value) => value > 0)];
    const quill = new Quill('#editor');
    quill.setText('Mind the ramp');
    quill.formatText(0, 4, 'bold', true);
    seen.quill = [quill.root.innerHTML, quill.getContents().ops.length];
    seen.text = [String(Vue.h).length, Handlebars.compile.toString().length, luxon.DateTime.toString().length];
    return seen;
  };
</script></body></html>`;

for (const { settings, how } of [
  { settings: { mode: 'exact' }, how: 'every call of them is recorded' },
  { settings: { mode: 'fine' }, how: 'their lines are' },
  { settings: { mode: 'fine', isolate: true }, how: 'their lines are, in an isolated page' },
] as const)
  test(`libraries as they are shipped do the same when ${how}`, async ({ browser }) => {
    const app = await localApp((request, response) => {
      const script = BUNDLES[request.url ?? ''];
      response.writeHead(200, {
        'content-type': script ? 'text/javascript; charset=utf-8' : 'text/html; charset=utf-8',
      });
      response.end(script ?? PAGE);
    });
    const target = app.origin;
    const running = await serve({ target, port: 0, proxyPort: 0, settings });
    const smoke = async (url: string) => {
      const page = await browser.newPage();
      const errors: string[] = [];
      page.on('pageerror', (error) => errors.push(error.message));
      await page.goto(url);
      const seen = await page.evaluate(() => (globalThis as unknown as { smoke(): Promise<object> }).smoke());
      const rewritten = await page.evaluate(() => '__np_r' in globalThis);
      await page.close();
      return { seen, errors, rewritten };
    };
    const before = await smoke(target);
    const after = await smoke(running.proxyOrigin);
    const uninstrumented = await fetch(`${running.interfaceOrigin}/api/uninstrumented`, {
      headers: { authorization: `Bearer ${running.secret}` },
    });
    expect(before.errors).toEqual([]);
    expect(after).toEqual({ ...before, rewritten: true });
    expect(await uninstrumented.json()).toEqual([]);
    running.close();
    app.close();
  });
