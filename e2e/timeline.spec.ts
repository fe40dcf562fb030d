import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { expect, stingList, test } from './stage';
import { choose } from './choose';

async function openTimeline(tool: Page): Promise<void> {
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  await tool.getByRole('link', { name: 'Timeline' }).click();
  await expect(tool.locator('[data-lane="thread 0"]')).toBeVisible();
}

const canvasOf = (tool: Page) => tool.getByRole('application', { name: /^Time view/ });
/** The stretch of time that is shown, in seconds, as the view itself tells it. */
async function shownStretch(tool: Page): Promise<[number, number]> {
  const label = (await canvasOf(tool).getAttribute('aria-label'))!;
  const [, from, to] = /from ([\d.]+) s to ([\d.]+) s/.exec(label)!;
  return [Number(from), Number(to)];
}

test('time is zoomed at the pointer, moved, fitted, and a drag sets the lens', async ({ stage }) => {
  const { tool } = stage;
  await openTimeline(tool);
  const whole = await shownStretch(tool);
  const box = (await canvasOf(tool).boundingBox())!;
  const x = box.x + box.width / 4;
  await tool.mouse.move(x, box.y + 120);
  await tool.keyboard.down('Control');
  for (let turn = 0; turn < 4; turn++) await tool.mouse.wheel(0, -300);
  await tool.keyboard.up('Control');
  await expect(async () => {
    const [from, to] = await shownStretch(tool);
    expect(to - from).toBeLessThan((whole[1] - whole[0]) / 4);
  }).toPass();
  const [from, to] = await shownStretch(tool);
  expect(from + (to - from) / 4).toBeCloseTo(whole[0] + (whole[1] - whole[0]) / 4, 0);

  await canvasOf(tool).focus();
  await tool.mouse.move(10, 10);
  await tool.keyboard.press('ArrowRight');
  await expect(async () => expect((await shownStretch(tool))[0]).toBeGreaterThan(from)).toPass();
  await tool.keyboard.press('0');
  await expect(async () => expect(await shownStretch(tool)).toEqual(whole)).toPass();

  await tool.mouse.move(box.x + 100, box.y + 120);
  await tool.mouse.down();
  await tool.mouse.move(box.x + 200, box.y + 120, { steps: 4 });
  await tool.mouse.up();
  await expect(tool).toHaveURL(/from=[\d.]+/);
  await expect(tool.locator('np-lens-bar mat-chip')).toHaveCount(1);
  await tool.goBack();
  await expect(tool.locator('np-lens-bar mat-chip')).toHaveCount(0);
});

test('with nothing selected, what is in view or in a range is summed, and redraws are listed by element', async ({
  stage,
}) => {
  const { tool } = stage;
  await openTimeline(tool);
  const panel = tool.locator('np-range-sums');
  const summedMs = async () => {
    const parts = await panel.locator('[data-ms]').all();
    const ms = await Promise.all(parts.map((part) => part.getAttribute('data-ms')));
    return ms.reduce((sum, one) => sum + Number(one), 0);
  };
  await expect(panel).toContainText('In view');
  const [from, to] = await shownStretch(tool);
  await expect(async () => expect((await summedMs()) / 1000).toBeCloseTo(to - from, 1)).toPass();
  await expect(panel.getByRole('link', { name: 'foldAccents' })).toBeVisible();

  const box = (await canvasOf(tool).boundingBox())!;
  await tool.mouse.move(box.x + 100, box.y + 120);
  await tool.mouse.down();
  await tool.mouse.move(box.x + 220, box.y + 120, { steps: 4 });
  await tool.mouse.up();
  await expect(panel).toContainText('In the range of the lens');
  await expect(tool).toHaveURL(/from=[\d.]+&to=[\d.]+/);
  const query = new URL(tool.url()).searchParams;
  const rangeMs = Number(query.get('to')) - Number(query.get('from'));
  await expect(async () => expect(await summedMs()).toBeCloseTo(rangeMs, 0)).toPass();

  await panel.getByRole('button', { name: /^(Tap|Key|Drag|Type)/ }).click();
  await expect(tool.locator('np-item-panel')).toContainText('budget 200 ms');
  await tool.getByRole('button', { name: 'Sum of what is in view' }).click();
  await panel.getByRole('button', { name: 'All redraws, as a table' }).click();
  const table = tool.locator('np-redraw-table');
  await expect(table.locator('tbody tr').first()).toContainText('Tide figure');
  await table.getByRole('button', { name: 'change one sees' }).click();
  await expect(table.locator('tbody tr').first()).toContainText('Notice text');

  await tool.getByRole('link', { name: 'Calls' }).click();
  await tool.getByRole('button', { name: 'Sum', exact: true }).click();
  await expect(async () => expect(await summedMs()).toBeCloseTo(rangeMs, 0)).toPass();
});

test('what is under the pointer is told in a card, and moving it draws no lane anew', async ({ stage }) => {
  const { tool } = stage;
  await openTimeline(tool);
  await tool.getByRole('radio', { name: 'In time' }).focus();
  await tool.keyboard.press(']');
  await tool.waitForTimeout(1000);
  const box = (await canvasOf(tool).boundingBox())!;
  const drawings = () =>
    canvasOf(tool).evaluate((canvas: HTMLCanvasElement & { drawn?: number }) => {
      if (canvas.drawn === undefined) {
        canvas.drawn = 0;
        const context = canvas.getContext('2d')!;
        const clear = context.clearRect.bind(context);
        context.clearRect = (...where) => {
          canvas.drawn!++;
          clear(...where);
        };
      }
      return canvas.drawn;
    });
  await tool.mouse.move(box.x + 300, box.y + 75);
  const before = await drawings();
  for (let x = 300; x < 420; x += 8) {
    await tool.mouse.move(box.x + x, box.y + 75);
    await tool.waitForTimeout(20);
  }
  const card = tool.locator('np-hover-card');
  await expect(card).toContainText('Frame');
  await expect(card).toContainText(/budget 16\.\d ms/);
  expect(await drawings()).toBe(before);
  await tool.mouse.move(box.x + 300, box.y - 40);
  await expect(card).toHaveCount(0);
});

test('what is clicked is told: how long, against which budget, from where, and its source', async ({
  stage,
}) => {
  const { tool } = stage;
  await openTimeline(tool);
  await tool.getByRole('radio', { name: 'Table' }).click();
  await choose(tool, 'Lane', 'Main thread');
  const panel = tool.locator('np-item-panel');
  const line = tool.locator('np-item-table tbody tr').filter({ hasText: 'onBoardAll' }).first();
  await line.getByRole('button').click();
  await expect(panel.getByRole('heading', { name: 'onBoardAll' })).toBeVisible();
  await expect(panel).toContainText('deck/');
  await expect(panel).toContainText(/length\s*\d+(\.\d+)? ms/);
  await tool.getByRole('radio', { name: 'In time' }).click();
  await expect(panel.getByRole('heading', { name: 'onBoardAll' })).toBeVisible();
  await panel.getByRole('button', { name: 'Zoom to it' }).click();
  await expect(async () => {
    const [from, to] = await shownStretch(tool);
    expect(to - from).toBeLessThan(1.5);
  }).toPass();
  await tool.keyboard.press('ArrowDown');
  await expect(panel.getByRole('heading', { level: 2 })).not.toHaveText('onBoardAll');
  await expect(panel).toContainText('Called from');
  await panel.getByRole('link', { name: 'Source' }).click();
  await expect(tool.locator('np-code-view')).toBeVisible();
});

test('an idle stretch says what it waited for, a request what it is, a redraw what changed', async ({
  stage,
}) => {
  const { tool } = stage;
  await openTimeline(tool);
  const panel = tool.locator('np-item-panel');
  await tool.getByRole('radio', { name: 'Table' }).click();
  await choose(tool, 'Lane', 'Requests');
  const first = tool.locator('np-item-table tbody tr').first().getByRole('button');
  await first.click();
  await expect(panel).toContainText('asked for by');
  await expect(panel).toContainText('in loadDepartures');
  await choose(tool, 'Lane', 'Redraws');
  await expect(tool.locator('np-item-table tbody tr').first()).toBeVisible();
  await tool.locator('np-item-table tbody tr').first().getByRole('button').click();
  await expect(panel).toContainText('Redraw at');
  await expect(panel).toContainText('to another value');
  await expect(panel).toContainText('in view');
});

test('lanes are folded, moved and hidden by pointer and keyboard, and stay so', async ({ stage }) => {
  const { tool } = stage;
  await openTimeline(tool);
  const order = () =>
    tool
      .locator('np-lane-headers .lane')
      .evaluateAll((lanes) =>
        lanes
          .sort((a, b) => a.getBoundingClientRect().top - b.getBoundingClientRect().top)
          .map((lane) => lane.getAttribute('data-lane')),
      );
  expect((await order())[0]).toBe('inputs');
  const up = tool.getByRole('button', { name: 'Move Frames up' });
  await up.focus();
  await tool.keyboard.press('Enter');
  await expect.poll(order).toEqual(expect.arrayContaining(['frames', 'inputs']));
  await expect.poll(async () => (await order())[0]).toBe('frames');
  await tool.getByRole('button', { name: 'Hide Memory' }).focus();
  await tool.keyboard.press('Enter');
  await expect(tool.locator('[data-lane="memory"]')).toHaveCount(0);
  const thread = tool.locator('[data-lane="thread 0"] .name');
  await thread.click();
  await expect(thread).toHaveAttribute('aria-expanded', 'false');

  await tool.reload();
  await expect(tool.locator('[data-lane="thread 0"] .name')).toHaveAttribute('aria-expanded', 'false');
  expect((await order())[0]).toBe('frames');
  await expect(tool.locator('[data-lane="memory"]')).toHaveCount(0);
  await tool.getByRole('button', { name: 'Lanes', exact: true }).click();
  await tool.getByRole('menuitemcheckbox', { name: 'Memory' }).click();
  await expect(tool.locator('[data-lane="memory"]')).toBeVisible();
});

test('the ladder shows repeats from their input, and stings are stepped through', async ({ stage }) => {
  const { tool } = stage;
  await openTimeline(tool);
  await canvasOf(tool).focus();
  await tool.keyboard.press(']');
  await expect(tool).toHaveURL(/sting=\d+/);
  const before = tool.url();
  await tool.keyboard.press('[');
  await expect(tool).not.toHaveURL(before);
  await tool.keyboard.press(']');
  await expect(tool).toHaveURL(before);
  await tool.getByRole('radio', { name: 'Ladder' }).click();
  const ladder = tool.getByRole('listbox', { name: /Interactions/ });
  await expect(ladder.getByRole('option').first()).toContainText('Tap button “Board all”');
  await ladder.focus();
  await tool.keyboard.press('ArrowDown');
  await expect(tool.locator('np-item-panel')).toContainText('budget 200 ms');
  await expect(tool.locator('np-item-panel')).toContainText('waiting');
});

test('a range is marked as one in which nothing should change: what happens in it is listed, and goes with the file', async ({
  stage: { tool },
}) => {
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await tool.waitForURL(/\/stings\//);
  const id = /stings\/([^?]+)/.exec(tool.url())![1]!;
  await tool.goto(`${new URL(tool.url()).origin}/timeline/${id}?from=22000&to=24000`);
  const mark = tool.getByRole('button', { name: 'Mark the range as quiet' });
  await mark.click();
  await expect(mark).toBeDisabled();
  const quiet = tool.getByRole('region', { name: 'Quiet from 22.00 s to 24.00 s' });
  await expect(quiet).toContainText(/redraws\s*[1-9]\d*, \d+ one could see/);
  await expect(quiet.getByRole('link', { name: 'tidePath', exact: true })).toBeVisible();

  const saved = tool.waitForEvent('download');
  await tool.getByRole('button', { name: 'Save file' }).click();
  const path = await (await saved).path();
  const [header] = gunzipSync(readFileSync(path)).toString('utf8').split('\n');
  expect(JSON.parse(header!)).toMatchObject({ quiet: [{ startMs: 22_000, endMs: 24_000 }] });

  await tool.reload();
  await quiet.getByRole('button', { name: 'Remove the mark: 22.00 s to 24.00 s' }).click();
  await expect(quiet).toHaveCount(0);
});
