import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { type Page } from '@playwright/test';
import { readRecording } from '../packages/server/dist/index.js';
import { expect, shownParts, startRecording, stingList, stopRecording, test, toSource } from './stage';
import { withoutEventTiming } from './without-event-timing';

const PAUSED_MS = 700;
/** Longer than a page has for its answer when a recording is to end. */
const SLOW_SOURCE_MS = 8000;

/** Has the page itself note what Event Timing reports, independently of the recorder. */
async function watchEventTiming(page: Page): Promise<() => Promise<number>> {
  await page.evaluate(() => {
    const scope = globalThis as unknown as { longest: number };
    scope.longest = 0;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) {
        const { interactionId } = entry as PerformanceEntry & { interactionId: number };
        if (interactionId > 0) scope.longest = Math.max(scope.longest, entry.duration);
      }
    }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
  });
  return () => page.evaluate(() => (globalThis as unknown as { longest: number }).longest);
}

test('a tap on "Board all" is the first sting, as long as Event Timing says, down to the line', async ({
  stage,
}) => {
  const desk = await stage.openDesk();
  const longest = await watchEventTiming(desk);
  await startRecording(stage.tool, desk);
  await desk.click('#board-all');
  await desk.waitForTimeout(1200);
  const reportedMs = await longest();
  await stopRecording(stage.tool);

  await expect(stingList(stage.tool).first()).toContainText('Tap button “Board all”');
  const { feltMs, sumMs } = await shownParts(stage.tool);
  expect(reportedMs).toBeGreaterThan(200);
  expect(Math.abs(feltMs - reportedMs)).toBeLessThanOrEqual(reportedMs * 0.05);
  expect(Math.abs(sumMs - feltMs)).toBeLessThanOrEqual(0.1);

  const worst = stage.tool.locator('np-culprits tbody tr').first();
  await expect(worst).toContainText('bendingOfPair');
  await expect(worst.locator('.where')).toHaveAttribute('title', /^src\/desk\/deck\/trim\.ts:\d+$/);
  const because = stage.tool.getByTestId('because');
  await expect(because).toContainText('The screen answered the tap on button “Board all” after');
  await expect(because.getByRole('button', { name: 'onBoardAll' })).toBeVisible();
  await toSource(stage.tool, 'bendingOfPair', /^src\/desk\/deck\/trim\.ts$/);
});

test(
  'a recording whose sources take long to fetch is shown once they are there, and no page is said to hang',
  { tag: '@waits' },
  async ({ stage }) => {
    const desk = await stage.openDesk();
    await startRecording(stage.tool, desk);
    await desk.click('#board-all');
    await desk.waitForTimeout(1200);
    let held = 0;
    await stage.tool.context().route('**/api/script?*', async (route) => {
      held++;
      await new Promise((resolve) => setTimeout(resolve, SLOW_SOURCE_MS));
      await route.continue();
    });
    await stage.tool.getByRole('button', { name: 'Stop' }).click();
    await expect(stage.tool.getByRole('status')).toContainText('Fetching sources');
    await expect(stage.tool).toHaveURL(/\/stings\//, { timeout: 30_000 });
    expect(held).toBeGreaterThan(0);
    await expect(stingList(stage.tool).first()).toContainText('Tap button “Board all”');
  },
);

test('a keystroke in the manifest search is a sting, down to the function that folds accents', async ({
  stage,
}) => {
  const desk = await stage.openDesk();
  await startRecording(stage.tool, desk);
  await desk.click('#search-manifest');
  await desk.keyboard.type('h');
  await desk.waitForTimeout(1500);
  await stopRecording(stage.tool);

  await expect(stingList(stage.tool).first()).toContainText('Type in search field “Search manifest”');
  const { feltMs, sumMs } = await shownParts(stage.tool);
  expect(feltMs).toBeGreaterThan(200);
  expect(Math.abs(sumMs - feltMs)).toBeLessThanOrEqual(0.1);
  const rows = stage.tool.locator('np-culprits tbody tr');
  await expect(rows.filter({ hasText: 'foldAccents' }).locator('.where')).toHaveAttribute(
    'title',
    /^src\/desk\/manifest\/fold\.ts:\d+$/,
  );
  await expect(stage.tool.getByTestId('because')).toContainText(
    'the key typed in search field “Search manifest”',
  );
  await toSource(stage.tool, 'foldAccents', /^src\/desk\/manifest\/fold\.ts$/);
});

/** Delays of the inputs with a label, as they came while recording. Milliseconds. */
async function delaysOf(tool: Page, label: string): Promise<number[]> {
  const rows = tool.locator('section.inputs li').filter({ hasText: label });
  await expect(rows.first()).toBeVisible();
  return (await rows.allTextContents()).map((text) => Number(/(\d+) ms/.exec(text)?.[1] ?? Infinity));
}

// A machine that is busy elsewhere can hold up any one input, but not each of four.
test('with the mended versions neither has to be a sting', { tag: '@waits' }, async ({ stage }) => {
  const desk = await stage.openDesk('?mended=all');
  await startRecording(stage.tool, desk);
  for (let again = 0; again < 4; again++) {
    await desk.click('#board-all');
    await desk.waitForTimeout(700);
    await desk.click('#undo-boarding');
    await desk.waitForTimeout(500);
  }
  await desk.click('#search-manifest');
  await desk.keyboard.type('hala', { delay: 500 });
  await desk.waitForTimeout(1000);
  await stage.tool.bringToFront();
  const board = await delaysOf(stage.tool, 'Tap button “Board all”');
  const search = await delaysOf(stage.tool, 'Type in search field “Search manifest”');
  expect(Math.min(...board), board.join()).toBeLessThanOrEqual(200);
  expect(Math.min(...search), search.join()).toBeLessThanOrEqual(200);
  await stopRecording(stage.tool);
});

test('while recording, time, size and inputs are shown; pausing is kept as a gap', async ({ stage }) => {
  const { tool } = stage;
  const desk = await stage.openDesk('?mended=all');
  await startRecording(tool, desk);
  await desk.click('#undo-boarding');
  await desk.waitForTimeout(2500);
  await tool.bringToFront();
  await expect(tool.getByText('Tap button “Undo boarding”')).toBeVisible();
  await expect(tool.getByTestId('size')).toHaveText(/^\d+(\.\d)? (B|kB)$/);
  await expect(tool.getByTestId('busy')).toHaveText(/^\d+(\.\d)? %$/);
  await tool.getByRole('button', { name: 'Pause' }).click();
  await expect(tool.getByText('Paused ·')).toBeVisible();
  const paused = await tool.getByTestId('elapsed').textContent();
  await tool.waitForTimeout(PAUSED_MS);
  await expect(tool.getByTestId('elapsed')).toHaveText(paused!);
  await tool.getByRole('button', { name: 'Resume' }).click();
  await expect(tool.getByText('Recording ·')).toBeVisible();
  await tool.waitForTimeout(500);
  await stopRecording(tool);
  const saved = tool.waitForEvent('download');
  await tool.getByRole('button', { name: 'Save file' }).click();
  const { recording } = readRecording([gunzipSync(readFileSync(await (await saved).path()))]);
  const pauses = [...recording.events.pause.rows()];
  expect(pauses).toHaveLength(1);
  expect(pauses[0]!.durationMs).toBeGreaterThanOrEqual(PAUSED_MS);
  const inPause = [...recording.events.cost.rows()].filter(
    ({ startMs }) => startMs > pauses[0]!.startMs && startMs < pauses[0]!.startMs + pauses[0]!.durationMs - 1,
  );
  expect(inPause).toEqual([]);
});

test('a key starts and stops a recording; long tasks come with their code while it runs', async ({
  stage,
}) => {
  const { tool } = stage;
  const desk = await stage.openDesk();
  await tool.bringToFront();
  await expect(tool.getByRole('button', { name: 'Record', exact: true })).toBeEnabled();
  await tool.getByRole('textbox', { name: 'Tags' }).fill('pier 3, before');
  const title = tool.getByRole('textbox', { name: 'Title' });
  await title.pressSequentially('Four lorries');
  await title.blur();
  await tool.keyboard.press('r');
  await expect(tool.getByText('Recording ·')).toBeVisible();
  await desk.bringToFront();
  await desk.waitForTimeout(300);
  await desk.click('#board-all');
  await desk.waitForTimeout(1500);
  await tool.bringToFront();
  // Names are as the code ran: those of the source are known once it is mapped.
  const task = tool
    .getByTestId('tasks')
    .getByRole('listitem')
    .filter({ hasText: /\w+\s+desk\.js:\d+\s+([2-9]\d\d ms|\d\.\d+ s)/ });
  await expect(task.first()).toBeVisible();
  await tool.keyboard.press('r');
  await tool.waitForURL(/\/stings\//);
  await expect(tool).toHaveTitle(/Four lorries/);
  await tool.getByRole('link', { name: 'Shelf' }).click();
  const card = tool.locator('.card', { hasText: 'Four lorries' });
  await expect(card).toContainText('pier 3');
  await expect(card).toContainText('before');
});

test('a recording may begin with the next load, and reaches back to its first script', async ({ stage }) => {
  const { tool } = stage;
  const desk = await stage.openDesk('?mended=all');
  await tool.bringToFront();
  await tool.getByRole('radio', { name: /From the next load/ }).click();
  await tool.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(tool.getByText('Now reload the page')).toBeVisible();
  await desk.reload();
  await desk.waitForSelector('[data-ready]');
  await desk.waitForTimeout(800);
  await tool.bringToFront();
  await expect(tool.getByText('Recording ·')).toBeVisible();
  await stopRecording(tool);
  await expect(tool.getByRole('button', { name: /^localhost:\d+\// })).toBeVisible();

  const download = tool.waitForEvent('download');
  await tool.getByRole('button', { name: 'Save file' }).click();
  const bytes = readFileSync(await (await download).path());
  const rows = gunzipSync(bytes)
    .toString('utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as Record<string, unknown>);
  expect(rows[0]).toMatchObject({ kind: 'header', startUp: true });
  const script = rows.find(({ kind, url }) => kind === 'request' && String(url).endsWith('/desk.js'));
  const loaded = await desk.evaluate(() => {
    const [navigation] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
    return navigation!.domInteractive;
  });
  expect(Number(script!['startMs'])).toBeGreaterThan(0);
  expect(Number(script!['startMs'])).toBeLessThan(loaded);
});

test('without Event Timing, own listeners find the same tap, and nearly the same delay', async ({
  stage,
}) => {
  await withoutEventTiming(stage.context);
  const desk = await stage.openDesk();
  const longest = await watchEventTiming(desk);
  await stage.tool.bringToFront();
  await expect(stage.tool.getByText('inputs and their delay (by own listeners)')).toBeVisible();
  await startRecording(stage.tool, desk);
  await desk.click('#board-all');
  await desk.waitForTimeout(1200);
  const reportedMs = await longest();
  await stopRecording(stage.tool);

  await expect(stingList(stage.tool).first()).toContainText('Tap button “Board all”');
  const { feltMs, sumMs } = await shownParts(stage.tool);
  expect(Math.abs(feltMs - reportedMs)).toBeLessThanOrEqual(reportedMs * 0.15);
  expect(Math.abs(sumMs - feltMs)).toBeLessThanOrEqual(0.1);
  await expect(stage.tool.locator('np-culprits tbody tr').first()).toContainText('bendingOfPair');
});
