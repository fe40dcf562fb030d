import {
  DEFAULT_THRESHOLDS,
  RecordingClient,
  explainReport,
  serve,
  type LanState,
} from '../packages/server/dist/index.js';
import { recordingOf } from './scripted';
import { localApp } from './local-app';
import { expect, test } from './stage';

/** An address of this computer that stands for the one that a web view in the room would use. */
const ADDRESS = '127.0.0.2';

const APP = `function readTides() { for (const from = performance.now(); performance.now() < from + 250; ); }
document.getElementById('tides').addEventListener('click', function onTides() { readTides(); });`;

const BUTTON = '<button id="tides">Tides</button><script src="/tides.js"></script>';

for (const way of ['tag', 'module'] as const) {
  test(`a page that is not proxied is recorded by a ${way}, over a reload too, once it was let in`, async ({
    browser,
  }) => {
    let head = '';
    const app = await localApp((request, response) => {
      const script = { '/tides.js': APP }[request.url!];
      response.writeHead(200, { 'content-type': script === undefined ? 'text/html' : 'text/javascript' });
      response.end(
        script ?? `<!doctype html><title>Tides</title><link rel="icon" href="data:,">${head}${BUTTON}`,
      );
    });
    const running = await serve({ target: app.origin, port: 0, proxyPort: 0, lan: ADDRESS });
    const { origin, code } = running.lan.state as Extract<LanState, { open: true }>;
    head =
      way === 'tag'
        ? `<script src="${origin}/__nettle-patch/tag.js" data-code="${code}"></script>`
        : `<script type="module">import { joinByCode } from '${origin}/__nettle-patch/module.js'; joinByCode('${origin}', '${code}');</script>`;
    const page = await browser.newPage();
    await page.goto(app.url);
    const client = await RecordingClient.connect(running);
    await client.target();
    await page.reload();
    const [device] = (running.lan.state as Extract<LanState, { open: true }>).devices;
    expect((running.lan.state as Extract<LanState, { open: true }>).devices).toEqual([device]);
    await expect.poll(async () => (await client.target()).url).toBe(app.url);
    await page.waitForTimeout(500);
    const target = await client.target();
    await client.start(target, 'tides');
    await page.click('#tides');
    await page.waitForTimeout(800);
    const lines = await client.stop(target, 'tides');
    const recording = recordingOf(lines);
    const [sting] = explainReport(recording, DEFAULT_THRESHOLDS).stings;
    expect(sting).toMatchObject({ kind: 'slow-response', label: 'Tap button “Tides”' });
    expect(sting!.feltMs).toBeGreaterThanOrEqual(248);
    expect(sting!.culprits[0]).toMatchObject({ name: 'onTides', file: expect.stringMatching(/tides\.js$/) });

    running.lan.devices.revoke(device!.id);
    const left = new Promise((resolve) => setTimeout(() => resolve('nobody'), 300));
    await expect.poll(() => Promise.race([client.target(), left])).toBe('nobody');
    client.close();
    await page.close();
    running.close();
    app.close();
  });
}

test('a page of another origin is let in by nothing but a code', async ({ browser }) => {
  const running = await serve({ target: 'localhost:9', port: 0, proxyPort: 0, lan: ADDRESS });
  const { origin } = running.lan.state as Extract<LanState, { open: true }>;
  const app = await localApp((_request, response) =>
    response
      .writeHead(200, { 'content-type': 'text/html' })
      .end(
        `<!doctype html><title>Tides</title><script src="${origin}/__nettle-patch/tag.js" data-code="AAAABBBB"></script>`,
      ),
  );
  const page = await browser.newPage();
  const said: string[] = [];
  page.on('console', (message) => said.push(message.text()));
  await page.goto(app.url);
  await expect
    .poll(() => said)
    .toContain('Nettle Patch: the code does not hold any more; the Record view shows another.');
  const asked = await page.evaluate(async (room) => {
    const opened = await new Promise((resolve) => {
      const socket = new WebSocket(`${room.replace('http', 'ws')}/__nettle-patch/target`, [
        'nettle-patch',
        'guessed',
      ]);
      socket.onopen = () => resolve('opened');
      socket.onclose = () => resolve('refused');
    });
    const read = await fetch(`${room}/__nettle-patch/join`).then(
      (answer) => answer.status,
      () => 'unreadable',
    );
    return [opened, read];
  }, origin);
  expect(asked).toEqual(['refused', 'unreadable']);
  expect((running.lan.state as Extract<LanState, { open: true }>).devices).toEqual([]);
  await page.close();
  running.close();
  app.close();
});
