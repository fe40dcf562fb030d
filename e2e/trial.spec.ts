import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test } from '@playwright/test';
import { command, type Ended } from './command';
import { localApp } from './local-app';

/** Work of a known amount, which no engine can leave out. */
const SET_UP = `let tide = 1;
function turn(times) {
  for (let at = 0; at < times; at++) tide = (Math.imul(tide, 1103515245) + 12345) & 0x7fffffff;
}`;
const TURNS = 20_000;
const work = (share: number) => `turn(${Math.round(TURNS * share)}); return 'done';`;

interface Alternative {
  readonly name: string;
  readonly code: string;
}

interface Report {
  readonly runs: readonly {
    readonly alternatives: readonly { readonly name: string; readonly problem?: { readonly kind: string } }[];
    readonly pairs: readonly {
      readonly first: number;
      readonly second: number;
      readonly verdict: string;
      readonly more: { readonly share: number; readonly low: number; readonly high: number };
    }[];
  }[];
}

let folder: string;
test.beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'trial-'));
});
test.afterAll(() => rmSync(folder, { recursive: true }));

/** Runs a trial of such alternatives. */
async function trial(alternatives: readonly Alternative[], more: object, ...flags: string[]): Promise<Ended> {
  const path = join(folder, 'at-the-quay.trial.json');
  const file = { format: 'nettle-patch-trial', version: 1, name: 'At the quay', alternatives, ...more };
  writeFileSync(path, JSON.stringify(file));
  return command(['trial', path, ...flags]);
}

for (const browser of ['chromium', 'firefox', 'webkit']) {
  test(
    `${browser}: alternatives that differ by 0, 10 and 50 % are told rightly`,
    { tag: '@waits' },
    async () => {
      test.setTimeout(240_000);
      const alternatives = [
        { name: 'as it is', code: work(1) },
        { name: 'the same', code: work(1) },
        { name: 'a tenth more', code: work(1.1) },
        { name: 'half as much again', code: work(1.5) },
      ];
      const { code, out, said } = await trial(
        alternatives,
        { setUp: SET_UP },
        '--browser',
        browser,
        '--seconds',
        '150',
        '--json',
      );
      expect(code, said).toBe(0);
      const [run] = (JSON.parse(out) as Report).runs;
      const verdicts = run!.pairs.map(({ first, second, verdict }) => `${first}${second} ${verdict}`);
      expect(verdicts, out).toEqual([
        '01 no-clear-change',
        '02 slower',
        '03 slower',
        '12 slower',
        '13 slower',
        '23 slower',
      ]);
      const [, tenth, half] = run!.pairs;
      for (const [pair, share] of [
        [tenth!, 0.1],
        [half!, 0.5],
      ] as const)
        expect(Math.abs(pair.more.share - share), JSON.stringify(pair)).toBeLessThan(0.08);
    },
  );

  test(
    `${browser}: different results, an endless way in a page and one that throws are told in words`,
    { tag: '@waits' },
    async () => {
      test.setTimeout(240_000);
      const { code, out, said } = await trial(
        [
          { name: 'three', code: 'return 3;' },
          { name: 'four', code: 'return 4;' },
          { name: 'adrift', code: 'for (;;) document.title = "adrift";' },
          { name: 'overboard', code: '\nreturn quay.fares;' },
        ],
        { place: 'page' },
        '--browser',
        browser,
        '--seconds',
        '5',
      );
      expect(code, said).toBe(1);
      expect(out).toContain('“adrift” did not end within 10 s, and was stopped.');
      expect(out).toContain('“overboard”, line 2: ReferenceError');
      expect(out).toContain('The results differ: “three” gives 3, “four” gives 4.');
    },
  );
}

test('a trial imports modules of the app as the app serves them, and is reported on without the tool', async ({
  page,
}) => {
  const app = await localApp(({ url }, response) => {
    const modules: Readonly<Record<string, string>> = {
      '/src/fares.js': 'import { rate } from "./rate.js";\nexport const fare = (euros) => euros * rate;',
      '/src/rate.js': 'export const rate = 2;',
    };
    const text = modules[url ?? ''];
    response.writeHead(text === undefined ? 404 : 200, { 'content-type': 'text/javascript' }).end(text);
  });
  try {
    const more = {
      app: app.origin,
      setUp: "import { fare } from '/src/fares.js';",
    };
    const alternatives = [
      { name: 'at once', code: 'return [1, 2, 3].map(fare);' },
      {
        name: 'one by one',
        code: 'const all = []; for (const euros of [1, 2, 3]) all.push(fare(euros)); return all;',
      },
    ];
    const { code, out, said } = await trial(alternatives, more, '--seconds', '10', '--html');
    expect(code, said).toBe(0);
    const path = join(folder, 'trial.html');
    writeFileSync(path, out);
    await page.route('**', (route) =>
      route.request().url().startsWith('file:') ? route.continue() : route.abort(),
    );
    await page.goto(pathToFileURL(path).href);
    await expect(page.getByRole('heading', { name: 'At the quay' })).toBeVisible();
    await expect(page.getByText('All give the same result.').first()).toBeVisible();
    await expect(page.locator('svg circle').first()).toBeVisible();
  } finally {
    app.close();
  }
});

test('what cannot be used is refused in words', async () => {
  const one = await command(['trial', 'README.md']);
  expect([one.code, one.said]).toEqual([2, expect.stringContaining('is no JSON')]);
  const none = await command(['trial', 'nowhere.json']);
  expect([none.code, none.said]).toEqual([2, expect.stringContaining('nowhere.json cannot be read')]);
  const other = await trial([{ name: 'alone', code: 'return 1;' }], {});
  expect([other.code, other.said]).toEqual([2, expect.stringContaining('at least 2 alternatives')]);
});
