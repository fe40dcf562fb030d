/** Projects of `bench/projects`, each with the server that its developers would start. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { copyFileSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { installed } from './installed.mjs';

const PROJECTS = fileURLToPath(new URL('../projects/', import.meta.url));
const START_LIMIT_MS = 180_000;

const vite = (port) => ['vite', '--port', String(port), '--strictPort', '--host', '127.0.0.1'];
const webpack = (port) => ['webpack', 'serve', '--port', String(port)];
const node = (port) => ['node', 'server.mjs', String(port)];

/** What stands in each page for `TELL_ERRORS`; `TALLY` is where it tells of them. */
const TELL_ERRORS = `addEventListener("error", (event) => tell(event.message));
addEventListener("unhandledrejection", (event) => tell(String(event.reason)));
{ const { error } = console; console.error = (...all) => { tell(all.join(" ")); error(...all); }; }
function tell(text) { navigator.sendBeacon("TALLY", text); }`.replaceAll('\n', ' ');

/**
 * By name: the folder, the command, and the file that holds the slow function. `borrows` are files of other projects;
 * `hot` is whether the server puts changed files into open pages, `leads` what is clicked to get to the slow one.
 */
export const KINDS = {
  'vite-react': { command: vite, slow: 'src/Board.jsx', hot: true },
  'vite-vue': { command: vite, slow: 'src/Board.vue', hot: true },
  'vite-svelte': {
    command: vite,
    borrows: { 'index.html': 'vite-vue/index.html' },
    slow: 'src/Board.svelte',
    hot: true,
  },
  angular: {
    command: (port) => ['ng', 'serve', '--port', String(port), '--host', '127.0.0.1'],
    slow: 'src/board.ts',
    hot: true,
  },
  next: {
    command: (port) => ['next', 'dev', '--port', String(port), '--hostname', '127.0.0.1'],
    borrows: { 'app/board.jsx': 'vite-react/src/Board.jsx' },
    slow: 'app/board.jsx',
    hot: true,
  },
  'webpack-eval-source-map': { folder: 'webpack', command: webpack, slow: 'src/board.js', hot: true },
  'webpack-eval': {
    folder: 'webpack',
    command: webpack,
    slow: 'src/board.js',
    hot: true,
    env: { DEVTOOL: 'eval' },
  },
  ...Object.fromEntries(
    ['nonce', 'strict', 'hash'].map((policy) => [
      `built-${policy}`,
      {
        folder: 'strict',
        command: node,
        borrows: { 'src/board.js': 'webpack/src/board.js' },
        slow: 'src/board.js',
        path: `/?policy=${policy}`,
      },
    ]),
  ),
  pages: { command: node, slow: 'deck.js', leads: '#deck' },
};

async function freePort() {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address();
  server.close();
  return port;
}

function* textFiles(folder) {
  for (const name of readdirSync(folder)) {
    if (name === 'node_modules' || name.startsWith('.')) continue;
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* textFiles(path);
    else yield path;
  }
}

async function answers(url, child, said) {
  const untilMs = Date.now() + START_LIMIT_MS;
  for (;;) {
    if (child.exitCode !== null) throw new Error(`the server ended: ${said().slice(-600)}`);
    const ok = await fetch(url).then(
      (answer) => answer.ok,
      () => false,
    );
    if (ok) return;
    if (Date.now() > untilMs) throw new Error(`no answer from ${url}: ${said().slice(-600)}`);
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
}

/**
 * Starts the server of a project.
 * @param tallyUrl where its pages tell of their errors
 * @returns address, the slow function's place, what changes the project's text, and what ends the server
 */
export async function startProject(name, tallyUrl) {
  const { folder: from = name, command, slow, path = '/', env = {}, borrows = {}, leads, hot } = KINDS[name];
  const folder = installed(join(PROJECTS, from));
  for (const [file, of] of Object.entries(borrows)) copyFileSync(join(PROJECTS, of), join(folder, file));
  for (const file of textFiles(folder)) {
    const text = readFileSync(file, 'utf8');
    const whole = text.replaceAll('TELL_ERRORS', TELL_ERRORS).replaceAll('TALLY', tallyUrl);
    if (whole !== text) writeFileSync(file, whole);
  }
  const port = await freePort();
  const url = new URL(path, `http://localhost:${port}`);
  let said = '';
  const [program, ...options] = command(port);
  const child = spawn(
    program === 'node' ? process.execPath : join(folder, 'node_modules/.bin', program),
    options,
    {
      cwd: folder,
      detached: true,
      env: {
        ...process.env,
        ...env,
        NG_CLI_ANALYTICS: 'false',
        NEXT_TELEMETRY_DISABLED: '1',
        BROWSER: 'none',
      },
    },
  );
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => (said += data));
  const end = () => {
    try {
      process.kill(-child.pid);
    } catch {
      return;
    }
  };
  try {
    await answers(url, child, () => said);
  } catch (error) {
    end();
    throw error;
  }
  const slowFile = join(folder, slow);
  const lines = readFileSync(slowFile, 'utf8').split('\n');
  return {
    url,
    slow: { file: slow, line: lines.findIndex((line) => line.includes('function weighDeck')) + 1 },
    leads,
    hot: hot === true,
    changeText(before, after) {
      writeFileSync(slowFile, readFileSync(slowFile, 'utf8').replace(before, after));
    },
    end,
  };
}
