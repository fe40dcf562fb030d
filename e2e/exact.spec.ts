import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { text } from 'node:stream/consumers';
import { transformSync } from 'esbuild';
import { localApp } from './local-app';
import { startBusyApp } from './busy-app';
import { command } from './command';
import { ENGINES, needs, recordIn } from './scripted';
import { expect, shownParts, stingList, stopRecording, test } from './stage';

test('exact calls are chosen in the tool; the page is loaded again, and each call is counted', async ({
  stage,
}) => {
  const { tool } = stage;
  const desk = await stage.openDesk();
  await tool.bringToFront();
  await expect(tool.getByRole('button', { name: 'Record', exact: true })).toBeEnabled();
  await tool.getByRole('radio', { name: /Exact calls/ }).click();
  await expect(tool.getByText('The page was loaded before this was chosen')).toBeVisible();
  await expect(tool.getByRole('button', { name: 'Record', exact: true })).toBeDisabled();
  await tool.getByRole('button', { name: 'Reload the page' }).click();
  await desk.waitForSelector('[data-ready]');
  await tool.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(tool.getByText('Recording ·')).toBeVisible();
  await tool.keyboard.press('m');
  await desk.bringToFront();
  await desk.waitForTimeout(300);
  await desk.locator('#search-manifest').press('h');
  await desk.waitForTimeout(1800);
  await stopRecording(tool);

  await expect(stingList(tool).first()).toContainText('Type in search field “Search manifest”');
  await expect(tool.getByTestId('because')).toContainText(
    /ran for [\d,]+ ms: \d+ % of it in foldAccents, called \d{3},\d{3} times/,
  );
  const { feltMs, sumMs } = await shownParts(tool);
  expect(Math.abs(sumMs - feltMs)).toBeLessThanOrEqual(0.1);
  const download = tool.waitForEvent('download');
  await tool.getByRole('button', { name: 'Save file' }).click();
  expect(readFileSync(await (await download).path()).length).toBeGreaterThan(10_000);
});

test('scripts that cannot be rewritten, or are left out, run as they are and are named in the recording', async () => {
  needs('chromium');
  const app = await localApp((request, response) => {
    const isScript = request.url?.endsWith('.js');
    response.writeHead(200, { 'content-type': isScript ? 'text/javascript' : 'text/html' });
    if (request.url === '/broken.js') response.end('let let = {');
    else if (isScript) response.end('globalThis.ran = [1].map(String);');
    else {
      const sources = ['/broken.js', '/vendor/tides.js', '/own.js'].map(
        (path) => `<script src="${path}"></script>`,
      );
      response.end(
        `<!doctype html><title>Left</title><link rel="icon" href="data:,"><button id="go">Go</button>${sources.join('')}`,
      );
    }
  });
  const recording = await recordIn('chromium', app.url, 'exact', [{ do: 'click', on: '#go' }], {
    leaveOut: ['/vendor/'],
  });
  const named = [...recording.sources.values()].filter(({ problem }) => problem !== undefined);
  expect(named.map((source) => [new URL(source.url).pathname, source.problem])).toEqual([
    ['/broken.js', expect.stringContaining('could not be parsed')],
    ['/vendor/tides.js', expect.stringContaining('"/vendor/", which is left out')],
  ]);
  app.close();
});

/** Runs the command line as a person would. */
async function run(...args: string[]): Promise<{ code: number; words: string }> {
  const { code, said } = await command(args);
  return { code, words: said };
}

test(
  'a recording by a script is written, and what goes wrong has its exit code and its words',
  { tag: '@waits' },
  async () => {
    needs('chromium');
    const app = await startBusyApp();
    const folder = mkdtempSync(join(tmpdir(), 'nettle-patch-'));
    const steps = (text: string) => {
      const file = join(folder, 'steps.json');
      writeFileSync(file, text);
      return file;
    };
    const out = join(folder, 'quay.nettle.jsonl');
    const good = steps('{"steps":[{"do":"click","on":"#start"},{"do":"wait","ms":200}]}');
    expect(await run('record', app.url, '--steps', good, '--repeat', '2', '--out', out)).toMatchObject({
      code: 0,
    });
    const rows = readFileSync(out, 'utf8')
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { kind: string; type?: string });
    expect(rows.filter(({ kind, type }) => kind === 'input' && type === 'click')).toHaveLength(2);

    expect(rows.filter(({ kind }) => kind === 'text').length).toBeGreaterThan(0);
    const alone = join(folder, 'alone.nettle.jsonl');
    expect(await run('record', app.url, '--steps', good, '--no-texts', '--out', alone)).toMatchObject({
      code: 0,
    });
    expect(readFileSync(alone, 'utf8')).not.toContain('"kind":"text"');

    const bad = steps('{"steps":[{"do":"click","on":"#start"},{"do":"sail"}]}');
    expect(await run('record', app.url, '--steps', bad)).toMatchObject({
      code: 2,
      words: expect.stringContaining('step 2'),
    });
    expect(await run('record', 'ahoy', '--steps', good)).toMatchObject({ code: 2 });
    const noDriver = ['--driver', 'http://127.0.0.1:1/', '--out', out];
    const fine = steps('{"steps":[{"do":"wait","ms":1}]}');
    expect(await run('record', app.url, '--steps', fine, ...noDriver)).toMatchObject({ code: 3 });
    const lost = steps('{"steps":[{"do":"click","on":"#start"},{"do":"click","on":"#nowhere"}]}');
    const failed = await run('record', app.url, '--steps', lost, '--out', out);
    expect(failed).toMatchObject({
      code: 4,
      words: expect.stringContaining('step 2 (click): nothing matched "#nowhere"'),
    });
    expect(readFileSync(out, 'utf8')).toContain('"BUTTON#start.onclick"');
    rmSync(folder, { recursive: true });
    app.close();
  },
);

for (const engine of ENGINES) {
  test(`modules that are evaluated are recorded down to the line, and a script of the page is read as written: ${engine}`, async () => {
    needs(engine);
    const source = `export function weighDeck(cars: number[]): number {
  const untilMs = performance.now() + 60;
  while (performance.now() < untilMs) cars.map(String);
  return cars.length;
}
document.querySelector('#weigh')!.addEventListener('click', function onWeigh() { weighDeck([1, 2]); });
`;
    const { code, map } = transformSync(source, {
      loader: 'ts',
      sourcemap: 'external',
      sourcefile: 'weigh.ts',
      format: 'cjs',
    });
    const comments = `//# sourceMappingURL=data:application/json;base64,${btoa(map)}\n//# sourceURL=deck-internal:///./src/weigh.js`;
    const bundle = `(() => { const module = {}; eval(${JSON.stringify(`${code}\n${comments}\n`)}); })();`;
    const inline =
      "\n  'use strict'; globalThis.namesOf = (crew) => crew.map((one) => one.name); // as it was\n";
    const told: string[] = [];
    const app = await localApp((request, response) => {
      if (request.url === '/told') void text(request).then((body) => told.push(body));
      if (request.url === '/modules.js')
        response.writeHead(200, { 'content-type': 'text/javascript' }).end(bundle);
      else
        response.writeHead(200, { 'content-type': 'text/html' }).end(`<!doctype html><title>Deck</title>
          <link rel="icon" href="data:,"><script id="inline">${inline}</script><button id="weigh">Weigh</button>
          <script src="/modules.js"></script>
          <script>fetch('/told', { method: 'POST', body: document.querySelector('#inline').textContent });</script>`);
    });
    const recording = await recordIn(engine, app.url, 'exact', [
      { do: 'wait', ms: 300 },
      { do: 'click', on: '#weigh' },
      { do: 'wait', ms: 400 },
    ]);
    app.close();
    const functions = [...recording.functions.values()];
    // A function has a row for each way it was met; all lead to one place.
    const placesOf = (name: string) => [
      ...new Set(
        functions.flatMap((one) =>
          one.originalName === name ? [`${one.originalFile}:${one.originalLine}`] : [],
        ),
      ),
    ];
    expect(placesOf('weighDeck')).toEqual(['src/weigh.ts:1']);
    expect(placesOf('onWeigh')).toEqual(['src/weigh.ts:6']);
    expect(recording.files.get('src/weigh.ts')).toBe(source);
    expect(told).toEqual([inline]);
  });
}

for (const engine of ENGINES) {
  test(`${engine}: scripts that a service worker has kept for its pages are recorded call by call`, async () => {
    needs(engine);
    const files: Record<string, string> = {
      '/keeper.js': `
addEventListener('install', (event) => event.waitUntil(caches.open('hold').then((hold) => hold.addAll(['/lazy.js']))));
addEventListener('activate', (event) => event.waitUntil(clients.claim()));
addEventListener('fetch', (event) => {
  if (event.request.url.endsWith('/lazy.js')) event.respondWith(caches.match('/lazy.js').then((kept) => kept || fetch(event.request)));
});`,
      '/lazy.js': `globalThis.stowCargo = function stowCargo() { for (const from = performance.now(); performance.now() < from + 120; ); };`,
    };
    const asked: string[] = [];
    const app = await localApp(({ url, headers }, response) => {
      const file = files[url!];
      if (url === '/lazy.js') asked.push(String(headers['sec-fetch-dest']));
      response.writeHead(200, { 'content-type': file === undefined ? 'text/html' : 'text/javascript' });
      response.end(
        file ??
          `<!doctype html><title>Hold</title><link rel="icon" href="data:,"><button id="go">Go</button><p id="said"></p><script>
navigator.serviceWorker.register('/keeper.js');
navigator.serviceWorker.ready.then(() => { if (navigator.serviceWorker.controller) said.className = 'ready'; else navigator.serviceWorker.oncontrollerchange = () => { said.className = 'ready'; }; });
go.onclick = () => { const lazy = document.createElement('script'); lazy.src = '/lazy.js'; lazy.onload = () => stowCargo(); document.body.append(lazy); };
</script>`,
      );
    });
    const recording = await recordIn(engine, app.url, 'exact', [
      { do: 'wait-for', on: '#said.ready' },
      { do: 'click', on: '#go' },
      { do: 'wait', ms: 900 },
    ]);
    app.close();
    expect(asked).toEqual(['empty']);
    const stow = [...recording.functions.values()].find(({ name }) => name === 'stowCargo')!;
    expect(stow, 'the function of the script that was kept').toBeDefined();
    expect([stow.originalFile, stow.originalLine]).toEqual(['lazy.js', 1]);
  });
}
