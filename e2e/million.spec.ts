import { writeFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { generatedFile } from '../bench/lib/generated-recording.mjs';
import { watchSlowness } from '../scripts/lib/slowness.mjs';
import { expect, stingList, test } from './stage';

const CALLS = 1_000_000;
const TRIES = 4;
/** What else the machine does may hit one task harder than it hits half of the work beside. */
const HIT_HARDER = 1.5;
/** Long Tasks API: a task of up to 50 ms is good. */
const GOOD_MS = 50;

interface LongTask {
  readonly during: string;
  readonly ms: number;
}

/** Has the browser itself note every task of the page over 50 ms, with what was being done. */
async function watchLongTasks(
  page: Page,
): Promise<{ during(step: string): Promise<void>; all(): Promise<LongTask[]> }> {
  await page.evaluate(() => {
    const scope = globalThis as unknown as { longTasks: LongTask[]; step: string };
    scope.longTasks = [];
    scope.step = '';
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries())
        scope.longTasks.push({ during: scope.step, ms: duration });
    }).observe({ type: 'longtask' });
  });
  return {
    during: (step) =>
      page.evaluate((name) => void ((globalThis as unknown as { step: string }).step = name), step),
    all: () => page.evaluate(() => (globalThis as unknown as { longTasks: LongTask[] }).longTasks),
  };
}

/**
 * Goes through all views of the recording that is opened from a file, as a person in a hurry would.
 * @param name of a function to be searched
 */
async function goThrough(tool: Page, path: string, name: string): Promise<LongTask[]> {
  await expect(tool.getByRole('button', { name: 'Demo recording' })).toBeVisible();
  await tool.waitForTimeout(1500);
  const watch = await watchLongTasks(tool);
  const views = tool.getByRole('navigation', { name: 'Views' });

  await watch.during('opening');
  await tool.getByLabel('Recording file').setInputFiles(path);
  await expect(stingList(tool).first()).toBeVisible({ timeout: 90_000 });
  await expect(tool.getByRole('application', { name: /^Anatomy of/ })).toBeVisible({ timeout: 30_000 });

  await watch.during('going through stings');
  for (let step = 0; step < 4; step++) {
    await tool.keyboard.press('j');
    await tool.waitForTimeout(250);
  }

  await watch.during('dragging the range');
  const strip = (await tool.getByRole('img', { name: /^Overview of/ }).boundingBox())!;
  await tool.mouse.move(strip.x + 200, strip.y + 30);
  await tool.mouse.down();
  await tool.mouse.move(strip.x + 700, strip.y + 30, { steps: 25 });
  await tool.mouse.up();
  await expect(tool).toHaveURL(/from=/);
  await tool.waitForTimeout(500);

  await watch.during('the time view');
  await views.getByRole('link', { name: 'Timeline' }).click();
  await tool.locator('[data-lane="thread 0"]').waitFor({ timeout: 30_000 });
  await tool.waitForTimeout(800);
  const canvas = (await tool.getByRole('application').boundingBox())!;
  await watch.during('zooming');
  await tool.mouse.move(canvas.x + 300, canvas.y + 100);
  await tool.keyboard.down('Control');
  for (let turn = 0; turn < 25; turn++) await tool.mouse.wheel(0, turn < 15 ? -180 : 180);
  await tool.keyboard.up('Control');
  await watch.during('moving through time');
  await tool.keyboard.down('Shift');
  for (let turn = 0; turn < 15; turn++) await tool.mouse.wheel(0, 120);
  await tool.keyboard.up('Shift');
  await watch.during('the ladder');
  await tool.getByRole('radio', { name: 'Ladder' }).click();
  await tool.waitForTimeout(1000);

  await watch.during('the calls');
  await views.getByRole('link', { name: 'Calls' }).click();
  await tool.locator('np-call-table tbody tr').first().waitFor({ timeout: 60_000 });
  await watch.during('filtering');
  await tool.getByLabel('Find functions and files').fill(name);
  await expect(tool.locator('tr.hit').first()).toBeVisible({ timeout: 30_000 });
  await tool.getByLabel('Find functions and files').fill('');
  await watch.during('the table');
  await tool.getByRole('radio', { name: 'Flat' }).click();
  await tool.locator('[role=grid] tr[data-at]').first().waitFor({ timeout: 30_000 });
  await watch.during('the flame graph');
  await tool.getByRole('radio', { name: 'Flame graph' }).click();
  await tool.getByRole('img', { name: /Flame graph/ }).waitFor();
  await tool.waitForTimeout(1000);
  await watch.during('the source');
  await views.getByRole('link', { name: 'Source' }).click();
  await tool.locator('np-source nav li').first().waitFor({ timeout: 30_000 });
  await tool.waitForTimeout(1000);
  return watch.all();
}

const longestOf = (tasks: readonly LongTask[]) => tasks.reduce((most, { ms }) => Math.max(most, ms), 0);
const wordsOf = (tasks: readonly LongTask[]) =>
  tasks.map(({ during, ms }) => `${during}: ${ms.toFixed(0)} ms`).join('; ') || 'none';

// A task is good up to 50 ms on the machine as it is when nothing else runs on it: what else it does while this runs is
// measured beside, by work that is always the same. It only ever makes tasks longer, so the best of some tries counts.
test('no step of the interface takes longer than 50 ms with a million calls', async ({ stage }, info) => {
  test.setTimeout(400_000);
  const path = info.outputPath('long-watch.nettle.jsonl.gz');
  writeFileSync(path, generatedFile(CALLS));
  let best = { longestMs: Infinity, slowness: 1 };
  for (let go = 0; go < TRIES && best.longestMs > GOOD_MS * best.slowness; go++) {
    const context = await stage.context.browser()!.newContext({ viewport: { width: 1280, height: 800 } });
    const beside = await stage.context.newPage();
    const slowness = await watchSlowness(beside);
    const tool = await context.newPage();
    await tool.goto(stage.running.address);
    const tasks = await goThrough(tool, path, 'step17');
    await context.close();
    const tried = { longestMs: longestOf(tasks), slowness: await slowness() };
    await beside.close();
    console.log(
      `tasks over 50 ms: ${wordsOf(tasks)}; the machine was ${tried.slowness.toFixed(2)} × slower than at its best`,
    );
    if (tried.longestMs / tried.slowness < best.longestMs / best.slowness) best = tried;
  }
  console.log(`longest task of the best try: ${best.longestMs.toFixed(0)} ms`);
  expect(best.longestMs).toBeLessThanOrEqual(GOOD_MS * best.slowness * HIT_HARDER);
});
