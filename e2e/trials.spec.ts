import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, stingList, test } from './stage';
import { choose } from './choose';

const DEMO = 'packages/app/public/demo/fold-accents.trial.json';

/** A file of a trial with such alternatives. */
function fileOf(setUp: string, alternatives: Readonly<Record<string, string>>, more: object = {}) {
  const text = JSON.stringify({
    format: 'nettle-patch-trial',
    version: 1,
    name: 'At the quay',
    setUp,
    alternatives: Object.entries(alternatives).map(([name, code]) => ({ name, code })),
    ...more,
  });
  return { name: 'quay.trial.json', mimeType: 'application/json', buffer: Buffer.from(text) };
}

const goToTrials = (tool: Page) => tool.getByRole('link', { name: 'Trials' }).click();
const run = (tool: Page) => tool.getByRole('button', { name: 'Run', exact: true }).click();
const outcome = (tool: Page) => tool.locator('np-trial-outcome');

async function openFile(tool: Page, ...file: Parameters<typeof fileOf>): Promise<void> {
  await goToTrials(tool);
  await tool.getByLabel('Recording file').setInputFiles(fileOf(...file));
  await expect(tool.getByLabel('Name of the trial')).toHaveValue('At the quay');
}

test('the demo trial is run, tells the quickest way, is kept with what came of it, and saved as it was', async ({
  stage,
}) => {
  const { tool } = stage;
  await goToTrials(tool);
  await tool.getByRole('button', { name: 'Open the demo trial' }).click();
  await choose(tool, 'Longest time', '30 s at most');
  await run(tool);
  await expect(tool.getByRole('status')).toContainText(/starts? done/);
  await expect(outcome(tool)).toContainText('All give the same result.', { timeout: 60_000 });
  await expect(tool.getByRole('button', { name: 'Run', exact: true })).toBeVisible({ timeout: 60_000 });
  await expect(outcome(tool)).toContainText(
    /“By a table of letters” takes \d+ % less time than “Letter by letter”/,
  );

  await tool.reload();
  await expect(outcome(tool)).toContainText('All give the same result.');
  await tool.getByRole('link', { name: 'Shelf' }).click();
  await expect(tool.getByRole('region', { name: 'Trials' })).toContainText('Three ways to fold accents');
  await tool.getByRole('link', { name: 'Three ways to fold accents' }).click();

  await tool.getByRole('button', { name: 'More about this trial' }).click();
  const download = tool.waitForEvent('download');
  await tool.getByRole('menuitem', { name: 'Save to a file' }).click();
  const saved = JSON.parse(readFileSync(await (await download).path(), 'utf8')) as unknown;
  expect(saved).toEqual(JSON.parse(readFileSync(DEMO, 'utf8')));
});

test('results that differ, a way that throws and one that never ends are told in words', async ({
  stage,
}) => {
  const { tool } = stage;
  await openFile(tool, 'const fares = [3, 4];', {
    sum: 'return fares[0] + fares[1];',
    product: 'return fares[0] * fares[1];',
    'thrown overboard': '\nreturn quay.fares;',
    adrift: 'for (;;);',
  });
  await choose(tool, 'Longest time', '10 s at most');
  await run(tool);
  await expect(outcome(tool)).toContainText(
    '“thrown overboard”, line 2: ReferenceError: quay is not defined',
    {
      timeout: 60_000,
    },
  );
  await expect(outcome(tool)).toContainText('“adrift” did not end within 10 s, and was stopped.');
  await expect(outcome(tool)).toContainText('The results differ: “sum” gives 7, “product” gives 12.');
});

test('a page that has elements and the modules of an app can be had; an endless way there stops nothing here', async ({
  stage,
}) => {
  const { tool, running } = stage;
  await openFile(
    tool,
    "const list = document.createElement('ul');\ndocument.body.append(list);",
    {
      one: "list.textContent = ''; list.append(document.createElement('li')); return list.innerHTML;",
      other: "list.innerHTML = '<li></li>'; return list.innerHTML;",
      adrift: 'for (;;);',
    },
    { place: 'page', app: running.proxyOrigin },
  );
  await choose(tool, 'Longest time', '10 s at most');
  await run(tool);
  await tool.waitForTimeout(3000);
  await tool.getByRole('link', { name: 'Record' }).click();
  await expect(tool.getByRole('button', { name: 'Demo recording' })).toBeVisible({ timeout: 3000 });
  await tool.getByRole('link', { name: 'Trials' }).click();
  await tool.getByRole('link', { name: 'At the quay' }).click();
  await run(tool);
  await expect(outcome(tool)).toContainText('All give the same result.', { timeout: 60_000 });
});

test('what is no code is said at its place, and what cannot be imported by its name', async ({ stage }) => {
  const { tool, running } = stage;
  await openFile(
    tool,
    "import { quay } from '/src/quay.js';",
    { one: 'return 1;', other: 'return (1;' },
    {
      app: running.proxyOrigin,
    },
  );
  await run(tool);
  await expect(tool.getByRole('alert')).toContainText(
    '“other”, line 1: this is neither JavaScript nor TypeScript',
  );
  const editor = tool.getByRole('textbox', { name: 'Code of other' });
  await editor.click();
  await tool.keyboard.press('ControlOrMeta+a');
  await tool.keyboard.type('return 1;');
  await run(tool);
  await expect(outcome(tool)).toContainText(
    'Set-up, line 1: /src/quay.js cannot be imported: the app answered 404',
  );
});

test('what is written in a trial cannot reach the tool', async ({ stage }) => {
  const { tool, running } = stage;
  await openFile(
    tool,
    '',
    {
      asks: `try { return (await fetch('${running.interfaceOrigin}/api/settings')).status; } catch { return 'not let in'; }`,
      looks: `try { return String(top.document.title); } catch { return 'not let in'; }`,
    },
    { place: 'page' },
  );
  await choose(tool, 'Longest time', '10 s at most');
  const address = tool.url();
  await run(tool);
  await expect(outcome(tool)).toContainText('All give the same result.', { timeout: 60_000 });
  expect(tool.url()).toBe(address);
});

test('a trial begins with the function that the cursor is in, and is deleted and put back', async ({
  stage,
}) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  await tool.getByRole('link', { name: 'Source' }).click();
  await tool.getByRole('button', { name: 'Try alternatives' }).click();
  await expect(tool.getByLabel('Name of the trial')).toHaveValue(/^Ways of \w+$/);
  await expect(tool.getByRole('textbox', { name: 'Set-up' })).toContainText('is called with');
  await tool.getByRole('button', { name: 'More about this trial' }).click();
  await tool.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(tool).toHaveURL(/\/trials$/);
  await tool.getByRole('button', { name: 'Undo' }).click();
  await expect(tool.getByRole('link', { name: /^Ways of/ })).toBeVisible();
});
