import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { localApp, type LocalApp } from './local-app';
import { needs } from './scripted';
import { expect, test } from './stage';

const run = promisify(execFile);
const root = fileURLToPath(new URL('..', import.meta.url));
const PATIENCE_MS = 300_000;

const PAGE = `<!doctype html><title>Ferry times</title><link rel="icon" href="data:,"><button id="load">Load</button><script src="/times.js"></script>`;
const SCRIPT = `function sortTimes() { for (const from = performance.now(); performance.now() < from + 300; ); }
document.getElementById('load').addEventListener('click', function onLoad() { sortTimes(); });`;

let folder: string;
let app: LocalApp;
let served: ChildProcess | undefined;

test.describe.configure({ mode: 'serial' });

test.beforeAll(async () => {
  test.setTimeout(PATIENCE_MS);
  folder = mkdtempSync(join(tmpdir(), 'quay-'));
  await run(process.execPath, ['scripts/pack.mjs', '--out', folder], { cwd: root });
  const [archive] = readdirSync(folder).filter((name) => name.endsWith('.tgz'));
  writeFileSync(join(folder, 'package.json'), '{ "name": "ferry-times", "private": true, "type": "module" }');
  await run('npm', ['install', '--no-audit', '--no-fund', '--prefer-offline', `./${archive}`], {
    cwd: folder,
  });
  app = await localApp((request, response) => {
    const isScript = request.url === '/times.js';
    response.writeHead(200, { 'content-type': isScript ? 'text/javascript' : 'text/html' });
    response.end(isScript ? SCRIPT : PAGE);
  });
});

test.afterAll(() => {
  served?.kill();
  app.close();
  rmSync(folder, { recursive: true, force: true });
});

const installed = (...args: string[]) =>
  run('npx', ['--no-install', 'nettle-patch', ...args], { cwd: folder });

/** Runs the installed package until it has said at which addresses it serves. */
async function serving(...args: string[]): Promise<{ tool: string; recorded: string }> {
  const program = join(folder, 'node_modules/nettle-patch/lib/server/bin/nettle-patch.js');
  served = spawn(process.execPath, [program, ...args, '--no-open'], {
    cwd: folder,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const output = served.stdout!;
  let text = '';
  // Its output is read on: a program whose output nobody reads any more ends.
  return new Promise((resolve, reject) => {
    output.on('data', (piece) => {
      text += String(piece);
      const found = /Open this:\s+(\S+)\s+The app, recorded:\s+(\S+)/.exec(text);
      if (found !== null) resolve({ tool: found[1]!, recorded: found[2]! });
    });
    output.once('end', () => reject(new Error(`it ended before it served: ${text}`)));
  });
}

test('what is installed in an empty folder says its version and depends on what it uses alone', async () => {
  const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')) as { version: string };
  expect((await installed('--version')).stdout.trim()).toBe(version);
  const manifest = JSON.parse(
    readFileSync(join(folder, 'node_modules/nettle-patch/package.json'), 'utf8'),
  ) as {
    dependencies: Record<string, string>;
  };
  const server = readFileSync(join(folder, 'node_modules/nettle-patch/lib/server/dist/cli.js'), 'utf8');
  expect(server).not.toContain('@nettle-patch/');
  expect(Object.keys(manifest.dependencies).filter((name) => name.startsWith('@angular'))).toEqual([]);
});

test('what is installed serves the app and its own interface', async ({ browser }) => {
  const { tool, recorded } = await serving(app.origin, '--port', '0');
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(tool);
  await expect(page.getByRole('button', { name: 'Demo recording' })).toBeVisible();
  const ferry = await context.newPage();
  await ferry.goto(recorded);
  await expect(page.getByRole('radio', { name: /Ferry times/ })).toBeVisible();
  await context.close();
});

test('what is installed records as its settings say, and tells of it for a build', async () => {
  needs('chromium');
  writeFileSync(
    join(folder, 'steps.json'),
    JSON.stringify({
      steps: [
        { do: 'click', on: '#load' },
        { do: 'wait', ms: 500 },
      ],
    }),
  );
  writeFileSync(join(folder, 'budget.json'), JSON.stringify({ responses: [{ label: '*', ms: 200 }] }));
  const settings = { target: app.url, mode: 'exact', steps: 'steps.json', budget: 'budget.json' };
  writeFileSync(join(folder, 'nettle-patch.config.json'), JSON.stringify(settings));
  const recorded = await installed(
    'record',
    '--out',
    'ferry.nettle.jsonl',
    '--markdown',
    '--junit',
    'steps.xml',
  );
  expect(recorded.stdout).toMatch(/^\| Tap button “Load” \| \d+ ms \| 200 ms \| .*sortTimes.* \|$/m);
  expect(readFileSync(join(folder, 'steps.xml'), 'utf8')).toContain('failures="0"');
  expect((await installed('calls', 'ferry.nettle.jsonl')).stdout).toMatch(/sortTimes +times\.js:1/);

  const checked = installed('check', 'ferry.nettle.jsonl', '--markdown', '--junit', 'budget.xml');
  const failure = (await checked.catch((error: unknown) => error)) as { code: number; stdout: string };
  expect(failure.code).toBe(1);
  expect(failure.stdout).toMatch(/\*\*exceeded\*\*/);
  expect(readFileSync(join(folder, 'budget.xml'), 'utf8')).toMatch(/<failure message="\d+ ms, allowed 200">/);

  const first = await run(
    'sh',
    ['-c', 'npx --no-install nettle-patch calls ferry.nettle.jsonl --json | head -1'],
    { cwd: folder },
  );
  expect([first.stdout, first.stderr.replaceAll(/^npm warn.*\n/gm, '')]).toEqual(['{\n', '']);
});

test('the core of what is installed reads recordings for other programs, with its types', async () => {
  const program = `import { readFileSync } from 'node:fs';
import { DEFAULT_THRESHOLDS, explainReport, readRecording, type Sting, findStings } from 'nettle-patch';
import type { joinByCode } from 'nettle-patch/recorder';
const { recording } = readRecording([readFileSync('ferry.nettle.jsonl')]);
export const join: typeof joinByCode | undefined = undefined;
const stings: Sting[] = findStings(recording, DEFAULT_THRESHOLDS);
const because: string = explainReport(recording, DEFAULT_THRESHOLDS).stings[0]!.because;
console.log(String(stings.length), because);
`;
  writeFileSync(join(folder, 'ask.ts'), program);
  const compiler = join(root, 'node_modules/typescript/bin/tsc');
  const types = ['--typeRoots', join(root, 'node_modules/@types'), '--types', 'node'];
  const flags = ['--strict', '--module', 'nodenext', '--target', 'es2022', ...types];
  await run(process.execPath, [compiler, 'ask.ts', ...flags], { cwd: folder }).catch(
    (error: { stdout: string }) => {
      throw new Error(error.stdout);
    },
  );
  expect((await run(process.execPath, ['ask.js'], { cwd: folder })).stdout).toMatch(/^1 .*sortTimes/);
});
