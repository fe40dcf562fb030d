import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test } from '@playwright/test';
import { readSteps, recordScript } from '../packages/server/dist/index.js';
import { localApp } from './local-app';
import { ENGINES, needs } from './scripted';

const CLI = fileURLToPath(new URL('../packages/server/dist/cli.js', import.meta.url));
const STEPS = '{"steps":[{"do":"wait","ms":30000}]}';

/** Processes that were started with a folder for temporary files, by their command. */
function processesWith(folder: string): string[] {
  const found: string[] = [];
  for (const id of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      const environment = readFileSync(`/proc/${id}/environ`, 'utf8');
      const state = /^State:\s+(\w)/m.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1];
      if (environment.includes(`TMPDIR=${folder}`) && state !== 'Z')
        found.push(readFileSync(`/proc/${id}/cmdline`, 'utf8').split('\0')[0]!);
    } catch {
      continue;
    }
  }
  return found;
}

async function startApp() {
  let arrived: () => void;
  const visited = new Promise<void>((resolve) => (arrived = resolve));
  const app = await localApp((_request, response) => {
    response.writeHead(200, { 'content-type': 'text/html' }).end('<!doctype html><title>Quay</title>');
    arrived();
  });
  return { ...app, visited };
}

for (const engine of ENGINES) {
  test(`${engine}: Ctrl+C and cancelling end the browser, its driver and its profile`, async () => {
    needs(engine);
    const folder = mkdtempSync(join(tmpdir(), 'ended-'));
    writeFileSync(join(folder, 'steps.json'), STEPS);
    const app = await startApp();
    const command = [CLI, 'record', app.url, '--steps', join(folder, 'steps.json'), '--browser', engine];
    const program = spawn(process.execPath, [...command, '--out', join(folder, 'x.ndjson')], {
      env: { ...process.env, TMPDIR: folder },
      stdio: 'ignore',
    });
    await app.visited;
    expect(processesWith(folder).length).toBeGreaterThan(1);
    program.kill('SIGINT');
    await once(program, 'exit');
    await expect.poll(() => processesWith(folder)).toEqual([]);
    await expect.poll(() => readdirSync(folder).filter((name) => name.includes('nettle-patch'))).toEqual([]);
    app.close();

    const other = await startApp();
    const { TMPDIR } = process.env;
    process.env['TMPDIR'] = folder;
    const control = new AbortController();
    const recorded = recordScript({
      url: new URL(other.url),
      steps: readSteps(STEPS),
      settings: {},
      browser: engine,
      repeat: 1,
      signal: control.signal,
    });
    recorded.catch(() => undefined);
    await other.visited;
    process.env['TMPDIR'] = TMPDIR;
    if (TMPDIR === undefined) delete process.env['TMPDIR'];
    const beganMs = Date.now();
    control.abort();
    await expect(recorded).rejects.toThrow('ended before it was done');
    expect(Date.now() - beganMs).toBeLessThan(15_000);
    await expect.poll(() => processesWith(folder)).toEqual([]);
    await expect.poll(() => readdirSync(folder).filter((name) => name.includes('nettle-patch'))).toEqual([]);
    rmSync(folder, { recursive: true, force: true });
    other.close();
  });
}
