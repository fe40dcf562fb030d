import { expect, test } from '@playwright/test';
import { outcomesOf, serve, type Recording } from '../packages/server/dist/index.js';
import { localApp, type LocalApp } from './local-app';
import { ENGINES, needs, recordIn } from './scripted';
import { startRecording, stopRecording } from './stage';

const BUSY_MS = 120;

/** A page of a site: a link to the next, and a button whose work is this page's own. */
const page = (path: string, work: string) => `<!doctype html><title>Skerry Line</title>
  <link rel="icon" href="data:,"><p>${path}</p><a id="next" href="/manifest">Manifest</a>
  <button id="work">Work</button><script src="/${work}.js"></script>`;

const script = (work: string) => `
  function ${work}() { const untilMs = performance.now() + ${BUSY_MS}; while (performance.now() < untilMs); }
  document.querySelector('#work').onclick = function on_${work}() { ${work}(); document.body.append('.'); };
  document.querySelector('#next').onclick = () => performance.mark('asked');`;

const site = (): Promise<LocalApp> =>
  localApp((request, response) => {
    const path = request.url!.split('?')[0]!;
    const name = /^\/(\w+)\.js$/.exec(path)?.[1];
    if (name === undefined) {
      const answer = () =>
        response
          .writeHead(200, { 'content-type': 'text/html' })
          .end(page(path, path === '/' ? 'loadDeck' : 'foldNames'));
      setTimeout(answer, path === '/' ? 0 : 200);
    } else response.writeHead(200, { 'content-type': 'text/javascript' }).end(script(name));
  });

/** Names of functions whose calls or entries were recorded. */
function entered({ events, functions }: Recording): Set<string> {
  const ids = [...events.handler.rows()].flatMap(({ function: id }) => (id === undefined ? [] : [id]));
  return new Set(ids.map((id) => functions.get(id)!.originalName ?? functions.get(id)!.name));
}

const states = ({ events }: Recording, type: string) =>
  [...events.state.rows()].filter((row) => row.type === type);

for (const engine of ENGINES) {
  for (const mode of ['everyday', 'exact'] as const) {
    test(`a recording goes on over a link, and over a reload: ${engine}, ${mode}`, async () => {
      needs(engine);
      const app = await site();
      const recording = await recordIn(engine, app.url, mode, [
        { do: 'click', on: '#work' },
        { do: 'wait', ms: 500 },
        { do: 'click', on: '#next' },
        { do: 'wait', ms: 1200 },
        { do: 'click', on: '#work' },
        { do: 'wait', ms: 500 },
        { do: 'navigate', url: '/manifest' },
        { do: 'wait', ms: 700 },
        { do: 'click', on: '#work' },
        { do: 'wait', ms: 700 },
      ]);
      app.close();
      expect([...entered(recording)]).toEqual(expect.arrayContaining(['on_loadDeck', 'on_foldNames']));
      const pages = states(recording, 'load').filter(({ value }) => value === 'began');
      expect(pages).toHaveLength(2);
      expect(states(recording, 'leave')).toHaveLength(2);
      const routes = states(recording, 'route').map(({ value }) => new URL(value).pathname);
      expect(routes).toEqual(['/', '/manifest', '/manifest']);

      const asked = [...recording.events.span.rows()].find(({ name }) => name === 'asked')!;
      const [began] = pages;
      expect(began!.startMs).toBeGreaterThan(asked.startMs - 20);
      expect(began!.startMs).toBeLessThan(asked.startMs + 150);
      const request = [...recording.events.request.rows()].find(
        ({ initiator }) => initiator === 'navigation',
      )!;
      expect(request.durationMs).toBeGreaterThan(190);
      const [paint] = states(recording, 'paint').filter(({ startMs }) => startMs > began!.startMs);
      expect(paint!.startMs).toBeGreaterThan(began!.startMs + 190);

      // The delay of the click that led to the page is that until the page showed something.
      const outcome = outcomesOf(recording).find(({ page }) => page?.path === '/manifest')!;
      const told = ['input', 'handler', 'state', 'request'] as const;
      const all = told
        .flatMap((kind) => [...recording.events[kind].rows()])
        .map((row) => JSON.stringify(row));
      expect(outcome, all.join('\n')).toBeDefined();
      expect(outcome.interaction.label).toBe('Tap link “Next”');
      expect(outcome.endMs - outcome.startMs).toBeGreaterThan(190);
      expect(outcome.endMs).toBeGreaterThanOrEqual(paint!.startMs);
      expect(outcome.steps.map(({ name }) => name)).toContain('request');
      expect(outcome.steps.at(-1)!.name).toBe('loading');

      const work = [...recording.events.handler.rows()].filter(
        ({ durationMs }) => durationMs > BUSY_MS * 0.9,
      );
      const ids = work.flatMap(({ id }) => id ?? []);
      expect(new Set(ids).size).toBe(ids.length);
      for (const { startMs } of work) expect(startMs).toBeLessThan(recording.range.endMs);
      expect([...recording.events.drop.rows()].map(({ reason }) => reason)).toEqual([]);
      if (mode === 'everyday') return;
      const calls = recording.calls.get(0)!;
      const { stacks } = recording;
      const times = (name: string) => {
        let count = 0;
        for (let span = 0; span < calls.length; span++)
          if (recording.functions.get(stacks.functionOf(calls.stacks[span]!))?.originalName === name) count++;
        return count;
      };
      expect([times('loadDeck'), times('foldNames')]).toEqual([1, 2]);
    });
  }
}

test(
  'the tool goes on with the next page, and ends when the app is left',
  { tag: '@waits' },
  async ({ browser }) => {
    const app = await site();
    const running = await serve({ target: app.origin, port: 0, proxyPort: 0 });
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const tool = await context.newPage();
    await tool.goto(running.address);
    const desk = await context.newPage();
    await desk.goto(running.proxyOrigin);
    await startRecording(tool, desk);
    await desk.click('#work');
    await desk.click('#next');
    await desk.waitForURL('**/manifest');
    await desk.click('#work');
    // Stopped at the time at which the tool looks whether a page has gone on.
    await desk.waitForTimeout(3600);
    await tool.bringToFront();
    await expect(tool.getByText('Recording ·')).toBeVisible();
    await stopRecording(tool);

    await tool.getByRole('link', { name: 'Record', exact: true }).click();
    await startRecording(tool, desk);
    await desk.goto('about:blank');
    await tool.bringToFront();
    await expect(tool.getByText('The page was closed, left for another site or crashed.')).toBeVisible();
    await tool.getByRole('button', { name: 'Show what was recorded' }).click();
    // Whoever comes back to the app is not recorded.
    await desk.goto(running.proxyOrigin);
    await tool.getByRole('link', { name: 'Record', exact: true }).click();
    await expect(tool.locator('np-target-card')).toHaveCount(1);
    await expect(tool.getByText('Recording ·')).toBeHidden();
    await context.close();
    running.close();
    app.close();
  },
);
