import {
  copyFileSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test } from '@playwright/test';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { CALM } from './calm';
import { command } from './command';
import { needs } from './scripted';
import { listening } from '../scripts/lib/listening.mjs';
import { localApp } from './local-app';

const versus = (...args: string[]) => command(['versus', ...args]);

interface Report {
  readonly browsers: readonly {
    readonly rounds: { readonly done: number; readonly planned: number };
    readonly series: readonly { readonly label: string; readonly verdict: string }[];
  }[];
}

const TAP = [
  { do: 'wait-for', on: '[data-ready]' },
  { do: 'click', on: '#board-all' },
  { do: 'wait', ms: 1500 },
];

const verdictOf = (report: Report) =>
  report.browsers[0]!.series.find(({ label }) => label === 'Tap button “Board all”')?.verdict;

/** Where the desk is served, and steps that tap it, in a folder of their own. */
interface Ground {
  readonly faulty: string;
  readonly mended: string;
  readonly folder: string;
  readonly steps: string;
}

async function onDesk(work: (ground: Ground) => Promise<void>): Promise<void> {
  const desk = await listening(createDeskServer());
  const origin = desk.url;
  const folder = mkdtempSync(join(tmpdir(), 'versus-'));
  try {
    const steps = join(folder, 'steps.json');
    writeFileSync(steps, JSON.stringify({ steps: TAP }));
    await work({ faulty: `${origin}${CALM}`, mended: `${origin}?mended=all`, folder, steps });
  } finally {
    desk.close();
    rmSync(folder, { recursive: true });
  }
}

test(
  'versus tells the mended version from the faulty one by fresh loads, goes on where it was cut, and ends accordingly',
  { tag: '@waits' },
  async ({ page }) => {
    test.setTimeout(400_000);
    await onDesk(async ({ faulty, mended, folder, steps }) => {
      const out = join(folder, 'loads');
      const given = ['--steps', steps, '--rounds', '5'];
      const first = await versus(faulty, mended, ...given, '--out', out, '--json');
      expect(first.said).toMatch(/round 5 of 5: [AB], about \d+ s to go at most/);
      expect(first.code, first.said).toBe(0);
      expect(verdictOf(JSON.parse(first.out) as Report)).toBe('faster');
      const loadsIn = (path: string) => readdirSync(path).filter((name) => name.endsWith('.gz'));
      expect(loadsIn(out)).toHaveLength(10);

      // The same loads the other way round, of which one is still to be made.
      const turned = join(folder, 'turned');
      mkdirSync(turned);
      for (const name of loadsIn(out)) {
        const other = name.replace(/-([ab])-/, (_, side) => (side === 'a' ? '-b-' : '-a-'));
        if (other !== 'chromium-b-05.nettle.jsonl.gz') copyFileSync(join(out, name), join(turned, other));
      }
      const junit = join(folder, 'versus.xml');
      const second = await versus(mended, faulty, ...given, '--out', turned, '--markdown', '--junit', junit);
      expect(second.code, second.said).toBe(1);
      expect(second.out).toMatch(/\| Tap button “Board all” \|.*\| slower \|/);
      expect(readFileSync(junit, 'utf8')).toContain('<failure message="slower');
      expect(loadsIn(turned)).toHaveLength(10);
      const another = await versus(faulty, mended, ...given, '--out', turned);
      expect(another.code).toBe(2);
      expect(another.said).toContain(`holds loads of another run (a was ${mended}, and is ${faulty} now)`);

      const told = await versus(mended, faulty, ...given, '--out', turned, '--html');
      expect(told.code, told.said).toBe(1);
      const file = join(folder, 'versus.html');
      writeFileSync(file, told.out);
      const asked: string[] = [];
      page.on('request', (request) => asked.push(request.url()));
      await page.context().setOffline(true);
      await page.goto(pathToFileURL(file).href);
      await expect(page.getByRole('heading', { name: /^chromium: 1 slower/ })).toBeVisible();
      await expect(page.locator('svg circle').first()).toBeVisible();
      expect(asked).toEqual([pathToFileURL(file).href]);

      const noFolder = await versus(mended, faulty, ...given, '--out', file);
      expect(noFolder.code).toBe(2);
      expect(noFolder.said).toContain('is no folder that can be written to');

      const wrong = await versus(faulty, 'desk', ...given);
      expect(wrong.code).toBe(2);
      expect(wrong.said).toContain('address B "desk" is no address');
    });
  },
);

for (const browser of ['firefox', 'webkit'] as const) {
  test(`${browser}: versus tells the mended version from the faulty one by fresh loads`, async () => {
    needs(browser);
    test.setTimeout(400_000);
    await onDesk(async ({ faulty, mended, steps }) => {
      const given = ['--steps', steps, '--rounds', '5', '--browser', browser, '--json'];
      const { code, out, said } = await versus(faulty, mended, ...given);
      expect(code, said).toBe(0);
      expect(verdictOf(JSON.parse(out) as Report)).toBe('faster');
    });
  });
}

test(
  'versus holds two builds at one address against each other: the second is waited for',
  { tag: '@waits' },
  async () => {
    test.setTimeout(300_000);
    let busyMs = 60;
    const app = await localApp((request, response) => {
      response.setHeader('content-type', request.url === '/' ? 'text/html' : 'text/javascript');
      response.end(
        request.url === '/'
          ? '<!doctype html><title>Boarding desk</title><button id="board">Board</button><script src="/desk.js"></script>'
          : `document.querySelector('#board').onclick = () => {
               const end = performance.now() + ${busyMs};
               while (performance.now() < end);
             };`,
      );
    });
    const address = app.url;
    const folder = mkdtempSync(join(tmpdir(), 'versus-'));
    try {
      const steps = join(folder, 'steps.json');
      writeFileSync(
        steps,
        JSON.stringify({
          steps: [
            { do: 'click', on: '#board' },
            { do: 'wait', ms: 700 },
          ],
        }),
      );
      const flags = ['--wait-for-change', '--steps', steps, '--rounds', '5', '--markdown'];
      const { code, out, said } = await command(['versus', address, ...flags], (words) => {
        if (words.includes('Build B now')) busyMs = 260;
      });
      expect(code, said).toBe(1);
      expect(out).toContain(String.raw`\(after\)`);
      expect(out).toContain('All loads of A were made before those of B');
      expect(out).toMatch(/\| Tap button “board” \|.*\| slower \|/i);
    } finally {
      app.close();
      rmSync(folder, { recursive: true });
    }
  },
);
