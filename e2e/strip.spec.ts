import type { Page } from '@playwright/test';
import { expect, stingList, test } from './stage';

/** Where the strip is, and a way from moments of the recording to places on it. */
async function stripOf(tool: Page) {
  const strip = tool.getByRole('img', { name: /^Overview of/ });
  const box = (await strip.boundingBox())!;
  const lengthMs = Number(
    await tool.getByRole('slider', { name: 'End of the range' }).getAttribute('aria-valuemax'),
  );
  const x = (ms: number) => box.x + 20 + (ms / lengthMs) * (box.width - 40);
  const drag = async (fromMs: number, toMs: number, y = 30, button: 'left' | 'right' = 'left') => {
    await tool.mouse.move(x(fromMs), box.y + y);
    await tool.mouse.down({ button });
    await tool.mouse.move(x((fromMs + toMs) / 2), box.y + y, { steps: 3 });
    await tool.mouse.move(x(toMs), box.y + y, { steps: 3 });
    await tool.mouse.up({ button });
  };
  return { strip, lengthMs, x, y: box.y, drag };
}

const rangeOf = (tool: Page) => {
  const { searchParams } = new URL(tool.url());
  return [Number(searchParams.get('from')), Number(searchParams.get('to'))] as const;
};

async function expectRange(tool: Page, fromMs: number, toMs: number): Promise<void> {
  await expect(async () => {
    const [from, to] = rangeOf(tool);
    expect(Math.abs(from - fromMs)).toBeLessThan(60);
    expect(Math.abs(to - toMs)).toBeLessThan(60);
  }).toPass();
}

test.beforeEach(async ({ stage: { tool } }) => {
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  await expect(tool.getByRole('slider', { name: 'Start of the range' })).toBeAttached();
});

test('a drag on the strip sets the range, its grips adjust it, its middle moves it; the right button does nothing', async ({
  stage,
}) => {
  const { tool } = stage;
  const { drag } = await stripOf(tool);
  await drag(2000, 8000, 30, 'right');
  await tool.waitForTimeout(200);
  expect(tool.url()).not.toContain('from=');
  await drag(2000, 8000);
  await expectRange(tool, 2000, 8000);
  await drag(8000, 12_000);
  await expectRange(tool, 2000, 12_000);
  await drag(2000, 4000);
  await expectRange(tool, 4000, 12_000);
  await drag(8000, 10_000);
  await expectRange(tool, 6000, 14_000);
  await tool.getByRole('img', { name: /^Overview of/ }).dblclick({ position: { x: 900, y: 30 } });
  await expect(tool).not.toHaveURL(/from=/);
});

test('the range is a slider with two thumbs for the keyboard', async ({ stage }) => {
  const { tool } = stage;
  const { lengthMs } = await stripOf(tool);
  const start = tool.getByRole('slider', { name: 'Start of the range' });
  const end = tool.getByRole('slider', { name: 'End of the range' });
  await start.focus();
  for (let step = 1; step <= 3; step++) {
    await tool.keyboard.press('PageUp');
    await expect(start).toHaveAttribute('aria-valuenow', String(Math.round(0.1 * step * lengthMs)));
  }
  await end.focus();
  await tool.keyboard.press('ArrowLeft');
  await expectRange(tool, 0.3 * lengthMs, 0.98 * lengthMs);
  await expect(end).toHaveAttribute('aria-valuetext', / s$/);
  await expect(end).toHaveAttribute('aria-valuemin', String(Math.round(0.3 * lengthMs)));
  await tool.keyboard.press('End');
  await expectRange(tool, 0.3 * lengthMs, lengthMs);
  await tool.keyboard.press('Escape');
  await expect(tool).not.toHaveURL(/from=/);
});

test('the window of the Timeline is moved and stretched at the foot of the strip, and the wheel zooms it', async ({
  stage,
}) => {
  const { tool } = stage;
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Timeline' }).click();
  const view = tool.getByRole('application');
  await expect(view).toBeVisible();
  await tool.getByRole('button', { name: 'Fit' }).click();
  const shown = async () => {
    const label = (await view.getAttribute('aria-label'))!;
    return [...label.matchAll(/([\d.]+) s/g)].slice(0, 2).map(([, seconds]) => Number(seconds) * 1000);
  };
  const { strip, x, y, drag, lengthMs } = await stripOf(tool);
  await tool.mouse.move(x(10_000), y + 30);
  for (let turn = 0; turn < 4; turn++) await tool.mouse.wheel(0, -150);
  await expect(async () => {
    const [from, to] = await shown();
    expect(to! - from!).toBeLessThan(0.5 * lengthMs);
    expect((10_000 - from!) / (to! - from!)).toBeCloseTo(10_000 / lengthMs, 1);
  }).toPass();
  const [from, to] = await shown();
  const foot = (await strip.boundingBox())!.height - 6;
  await drag((from! + to!) / 2, (from! + to!) / 2 + 3000, foot);
  await expect(async () => {
    const [start, end] = await shown();
    expect(Math.abs(start! - from! - 3000)).toBeLessThan(80);
    expect(Math.abs(end! - to! - 3000)).toBeLessThan(80);
  }).toPass();
  await drag(to! + 3000, to! + 6000, foot);
  await expect(async () => {
    const [start, end] = await shown();
    expect(Math.abs(start! - from! - 3000)).toBeLessThan(80);
    expect(Math.abs(end! - to! - 6000)).toBeLessThan(80);
  }).toPass();
  expect(tool.url()).not.toContain('from=');

  const before = await shown();
  const views = tool.getByRole('navigation', { name: 'Views' });
  await views.getByRole('link', { name: 'Calls' }).click();
  await expect(tool.locator('np-call-table tbody tr').first()).toBeVisible();
  await views.getByRole('link', { name: 'Timeline' }).click();
  await expect(view).toBeVisible();
  expect(await shown(), 'where one was').toEqual(before);
});

test('a card over the strip tells what went on, or which sting it was', async ({ stage }) => {
  const { tool } = stage;
  const { x, y, lengthMs } = await stripOf(tool);
  const card = tool.locator('np-ground-strip np-hover-card');
  const told = new Set<string>();
  for (let part = 0; part < 120 && told.size < 2; part++) {
    await tool.mouse.move(x((part / 120) * lengthMs), y + 40);
    const words = (await card.textContent())!;
    if (/^Main thread, \d+ ms from [\d.]+ s.*(busy|idle)/.test(words)) told.add('moment');
    if (/^Sting at [\d.]+ s.*took.*, budget \d+ ms/.test(words)) told.add('sting');
  }
  expect(told).toEqual(new Set(['moment', 'sting']));
  await tool.mouse.move(x(1), y - 200);
  await expect(card).toHaveCount(0);
});

test('a function that is chosen in one view is lit in the others, until it is let go', async ({ stage }) => {
  const { tool } = stage;
  const views = tool.getByRole('navigation', { name: 'Views' });
  const chip = tool.getByRole('button', { name: 'Clear chosen function foldAccents' });
  /** Which pixels of the strip's line for it are ink: those along the ground. */
  const litShare = () =>
    tool.locator('np-ground-strip canvas').evaluate((canvas: HTMLCanvasElement) => {
      const scale = devicePixelRatio;
      const row = Math.round((canvas.clientHeight - 12 + 2) * scale);
      const { data } = canvas.getContext('2d')!.getImageData(20 * scale, row, canvas.width - 40 * scale, 1);
      let dark = 0;
      for (let at = 0; at < data.length; at += 4)
        if (data[at + 3]! > 60 && data[at]! + data[at + 1]! + data[at + 2]! < 200) dark++;
      return dark / (data.length / 4);
    });
  const before = await litShare();
  await views.getByRole('link', { name: 'Calls' }).click();
  await tool.getByRole('radio', { name: 'Flat' }).click();
  await expect(chip).toHaveCount(0);
  await tool.locator('tr[data-name="foldAccents"]').click();
  await expect(chip).toBeVisible();
  await expect.poll(litShare).toBeGreaterThan(before + 0.02);
  await views.getByRole('link', { name: 'Stings' }).click();
  await stingList(tool).filter({ hasText: 'Search manifest' }).first().click();
  const culprit = tool.locator('np-culprits tr.on');
  await expect(culprit).toContainText('foldAccents');
  await views.getByRole('link', { name: 'Source' }).click();
  await tool.locator('np-source nav li button').filter({ hasText: 'deck/trim.ts' }).click();
  await expect(tool.locator('np-source header h2')).toHaveAttribute('title', /trim\.ts/);
  await expect(chip).toBeVisible();
  await views.getByRole('link', { name: 'Timeline' }).click();
  await expect(tool.getByRole('application')).toBeVisible();
  await chip.click();
  await expect(chip).toHaveCount(0);
  await expect.poll(litShare).toBeLessThan(before + 0.01);
  await expect(tool).not.toHaveURL(/function=/);
});
