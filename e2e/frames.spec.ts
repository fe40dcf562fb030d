import { expect, test } from '@playwright/test';
import {
  DEFAULT_THRESHOLDS,
  anatomyOf,
  becauseOf,
  becauseText,
  findStings,
} from '../packages/server/dist/index.js';
import { localApp } from './local-app';
import { ENGINES, needs, recordIn, worst } from './scripted';

const DECK = `<!doctype html><title>Deck</title><link rel="icon" href="data:,">
<style>button { width: 300px; height: 150px }</style><body><button id="load-deck">Load</button><div id="hold"></div><script src="/deck.js"></script>`;
const DECK_SCRIPT = `
function spin(ms) { for (const from = performance.now(); performance.now() < from + ms; ); }
function weighCargo() { spin(200); }
function placeCrates() {
  for (let crate = 0; crate < 40; crate++) {
    document.getElementById('hold').style.width = 100 + crate + 'px';
    void document.getElementById('hold').offsetWidth;
    spin(1);
  }
}
document.getElementById('load-deck').addEventListener('click', function loadDeck() { weighCargo(); placeCrates(); if (frameElement) frameElement.className = 'loaded'; });
performance.mark('deck is there');
`;

/** Taps what is in the frame when it is there, and waits until that was answered. */
const LOAD_DECK = [
  { do: 'wait-for', on: '#deck.there' },
  { do: 'wait', ms: 300 },
  { do: 'click', on: '#deck' },
  { do: 'wait-for', on: '#deck.loaded' },
  { do: 'wait', ms: 500 },
];

/** A page that opens a frame of its own, and may have one of another origin. */
async function harbour(other: string) {
  return localApp(({ url }, response) => {
    const path = url!.split('?')[0]!;
    response.writeHead(200, { 'content-type': path.endsWith('.js') ? 'text/javascript' : 'text/html' });
    if (path === '/deck.html') response.end(DECK);
    else if (path === '/deck.js') response.end(DECK_SCRIPT);
    else {
      response.end(`<!doctype html><title>Harbour</title><link rel="icon" href="data:,"><body><button id="open">Open</button>
<button id="anew">Anew</button> <button id="away">Away</button>
${other && `<iframe id="tides" src="${other}/deck.html"></iframe>`}<br>
<script>
document.getElementById('open').addEventListener('click', function openDeck() {
  const deck = document.createElement('iframe');
  Object.assign(deck, { id: 'deck', src: '/deck.html', onload: () => (deck.className = 'there') });
  document.body.append(deck);
});
const deck = () => document.getElementById('deck');
document.getElementById('anew').addEventListener('click', () => { deck().className = ''; deck().contentWindow.location.reload(); });
document.getElementById('away').addEventListener('click', () => deck().remove());
</script>`);
    }
  });
}

for (const engine of ENGINES) {
  for (const mode of ['everyday', 'exact'] as const) {
    test(`${engine}, ${mode}: a frame of the page's origin is recorded as a part of it, and named`, async () => {
      needs(engine);
      const other = await localApp((_request, response) => {
        response.writeHead(200, { 'content-type': 'text/html' }).end('<!doctype html><title>Tides</title>');
      });
      const app = await harbour(other.origin);
      const recording = await recordIn(engine, app.url, mode, [{ do: 'click', on: '#open' }, ...LOAD_DECK]);
      app.close();
      other.close();

      const anatomy = worst(recording, 'Tap button “Load deck” in frame “Deck”')!;
      expect(anatomy, 'the tap in the frame').toBeDefined();
      expect(anatomy.sting.feltMs).toBeGreaterThan(230);
      const handlers = [...recording.events.handler.rows()].filter(({ invoker }) =>
        invoker.includes('load-deck'),
      );
      expect(handlers).toHaveLength(1);
      expect(handlers[0]!.durationMs).toBeGreaterThan(230);
      expect(handlers[0]!.startMs).toBeGreaterThanOrEqual(anatomy.sting.startMs - 1);
      const named = recording.functions.get(handlers[0]!.function!)!;
      expect(named.name).toBe('loadDeck');
      expect(recording.sources.get(named.source!)!.url).toMatch(/deck\.js$/);
      expect(named.originalLine ?? named.line).toBe(11);
      const forced = [...recording.events.forced.rows()].filter(({ read }) => read === 'offsetWidth');
      expect(forced.reduce((sum, { count }) => sum + count, 0)).toBe(40);
      expect(forced[0]!.target).toBe('element “Hold” in frame “Deck”');
      const renders = [...recording.events.render.rows()];
      for (const [at, { startMs }] of renders.slice(1).entries())
        expect(startMs).toBeGreaterThanOrEqual(renders[at]!.startMs + renders[at]!.durationMs - 0.002);
      expect([...recording.events.span.rows()].map(({ name }) => name)).toContain('deck is there');

      const dropped = [...recording.events.drop.rows()].map(({ reason }) => reason);
      expect(dropped).toEqual([`frame “Tides” of ${other.origin} is not recorded`]);
      if (mode === 'exact') {
        const names = [...recording.functions.values()].map(({ name }) => name);
        expect(names).toContain('weighCargo');
        expect(names).toContain('placeCrates');
      }
    });
  }
}

test('a frame that is loaded anew and one that is taken away leave the recording whole', async () => {
  needs('chromium');
  const app = await harbour('');
  const recording = await recordIn('chromium', app.url, 'exact', [
    { do: 'click', on: '#open' },
    ...LOAD_DECK,
    { do: 'click', on: '#anew' },
    ...LOAD_DECK,
    { do: 'click', on: '#away' },
    { do: 'wait', ms: 300 },
    { do: 'click', on: '#open' },
    ...LOAD_DECK,
  ]);
  app.close();
  const names = [...recording.events.handler.rows()].map(({ invoker }) => invoker);
  expect(names.filter((name) => name.includes('load-deck'))).toHaveLength(3);
  expect(names.filter((name) => name.includes('away'))).toHaveLength(1);
  expect([...recording.events.drop.rows()]).toEqual([]);
  expect([...recording.events.end.rows()]).toHaveLength(1);
});

test('what keeps the thread in a frame of another origin is named by that frame', async () => {
  needs('chromium');
  const other = await localApp((_request, response) => {
    response.writeHead(200, { 'content-type': 'text/html' });
    response.end(`<!doctype html><title>Tides</title><script>
setInterval(() => { for (const from = performance.now(); performance.now() < from + 1200; ); }, 1500);</script>`);
  });
  const app = await harbour(other.origin);
  const recording = await recordIn('chromium', app.url, 'everyday', [{ do: 'wait', ms: 4000 }]);
  app.close();
  other.close();
  const stings = findStings(recording, DEFAULT_THRESHOLDS);
  expect(stings[0]!.label).toBe(`Work in frame “Tides” of ${other.origin}`);
  const words = becauseText(becauseOf(recording, anatomyOf(recording, stings[0]!)));
  expect(words).toContain(`in frame “Tides” of ${other.origin}, which is not recorded`);
});
