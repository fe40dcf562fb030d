import { expect, stingList, test } from './stage';

test('the calls of a recording: opened step by step, searched, narrowed, and as a flame graph', async ({
  stage,
}) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await tool.waitForURL(/\/stings\//);
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Calls' }).click();
  const rows = tool.locator('np-call-table tbody tr');
  await expect(rows.first()).toBeVisible();

  const boarding = tool.locator('tr[data-name="onBoardAll"]');
  await boarding.click();
  await expect(boarding).toHaveAttribute('aria-selected', 'true');
  await boarding.focus();
  await expect(async () => {
    await tool.keyboard.press('ArrowRight');
    await expect(tool.locator('tr[data-name="bendingOfPair"]').first()).toBeVisible({ timeout: 300 });
  }).toPass();
  await test.step('the bar under the pointer says what it stands for', async () => {
    const bars = tool.getByRole('img', { name: /^When it was (called|seen)$/ });
    const { width, height } = (await bars.boundingBox())!;
    await expect(async () => {
      await bars.hover({ position: { x: width * 0.6, y: height / 2 } });
      await expect(tool.locator('np-bars h3 .figure').last()).toHaveText(/^\d+\.\d s: [\d,]+$/, {
        timeout: 500,
      });
    }).toPass();
    const drawn = await bars.evaluate((canvas: HTMLCanvasElement) => {
      const copy = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d')!;
      copy.drawImage(canvas, 0, 0);
      return copy.getImageData(0, 0, canvas.width, canvas.height).data.some((value) => value > 0);
    });
    expect(drawn).toBe(true);
  });

  await boarding.focus();
  await tool.keyboard.press('End');
  await expect(rows.last()).toHaveAttribute('aria-selected', 'true');

  await tool.getByLabel('Find functions and files').fill('foldAccents');
  await expect(tool.getByText(/% of the time/)).toBeVisible();
  await expect(tool.locator('tr.hit').first()).toContainText('foldAccents');
  expect(new URL(tool.url()).searchParams.get('text')).toBe('foldAccents');

  await tool.getByRole('radio', { name: 'From the bottom' }).click();
  await expect(rows).toHaveCount(1);
  await rows.first().focus();
  await tool.keyboard.press('ArrowRight');
  await expect(tool.locator('tr[data-name="wordsOf"]')).toBeVisible();

  await tool.getByRole('button', { name: 'Only what it called' }).click();
  await expect(tool.getByText('only foldAccents')).toBeVisible();
  await tool.goBack();
  await expect(tool.getByText('only foldAccents')).toHaveCount(0);
  await tool.getByRole('button', { name: 'Remove from lens: “foldAccents”' }).click();

  await tool.getByRole('radio', { name: 'Flame graph' }).click();
  const flame = tool.getByRole('img', { name: /Flame graph/ });
  await expect(flame).toBeVisible();
  await flame.focus();
  await tool.keyboard.press('ArrowDown');
  await expect(tool.locator('np-flame np-hover-card')).toContainText(/total.*self.*code/);
  await tool.keyboard.press('Enter');
  await expect(tool.getByRole('button', { name: 'All calls' })).toBeVisible();
});

test('a range drawn on the ground strip narrows the calls, and the lens says so', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await tool.waitForURL(/\/stings\//);
  await tool.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Calls' }).click();
  await expect(tool.locator('np-call-table tbody tr').first()).toBeVisible();
  await tool.goto(`${tool.url().split('?')[0]}?from=0&to=400`);
  await expect(tool.getByText('400 ms from 0.00 s')).toBeVisible();
  await expect(tool.locator('tr[data-name="onSearchInput"]')).toHaveCount(0);
  await tool.getByRole('button', { name: /^Remove from lens: 400 ms/ }).click();
  await expect(tool.locator('tr[data-name="onSearchInput"]')).toBeVisible();
});

test('the focus on a function leaves the stings during which it ran', async ({ stage }) => {
  const { tool } = stage;
  const views = tool.getByRole('navigation', { name: 'Views' });
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await tool.waitForURL(/\/stings\//);
  await views.getByRole('link', { name: 'Calls' }).click();
  await tool.locator('tr[data-name="onDragMove"]').click();
  await tool.getByRole('button', { name: 'Only what it called' }).click();
  await expect(tool.getByText('only onDragMove')).toBeVisible();
  await views.getByRole('link', { name: 'Stings' }).click();
  await expect(stingList(tool).filter({ hasText: 'onDragMove' }).first()).toBeVisible();
  await expect(stingList(tool).filter({ hasText: 'Search manifest' })).toHaveCount(0);
});

test('opened lines, the box as wide as all and several functions in focus stay in the address', async ({
  stage,
}) => {
  const { tool } = stage;
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await tool.waitForURL(/\/stings\//);
  const views = tool.getByRole('navigation', { name: 'Views' });
  await views.getByRole('link', { name: 'Calls' }).click();
  const row = (name: string) => tool.locator(`tr[data-name="${name}"]`).first();
  await row('onBoardAll').focus();
  await expect(async () => {
    await tool.keyboard.press('ArrowRight');
    await expect(row('bendingOfPair')).toBeVisible({ timeout: 300 });
  }).toPass();
  await tool.reload();
  await expect(row('bendingOfPair')).toBeVisible();
  await views.getByRole('link', { name: 'Timeline' }).click();
  await views.getByRole('link', { name: 'Calls' }).click();
  await expect(row('bendingOfPair')).toBeVisible();

  await row('onBoardAll').click();
  await tool.getByRole('button', { name: 'Only what it called' }).click();
  await expect(tool.getByText('only onBoardAll')).toBeVisible();
  await expect(row('onDragMove')).toHaveCount(0);
  await tool.goBack();
  await row('onDragMove').click();
  await tool.getByRole('button', { name: 'Only what it called' }).click();
  await expect(tool.getByText('only onDragMove')).toBeVisible();
  await tool.keyboard.press('/');
  await tool.getByRole('combobox', { name: 'Search the recording' }).fill('onBoardAll');
  await tool
    .getByRole('option', { name: /onBoardAll/ })
    .first()
    .click();
  await tool.getByRole('button', { name: 'And what it called' }).click();
  await expect(tool.getByText('or onBoardAll')).toBeVisible();
  await expect(row('onDragMove')).toBeVisible();
  await expect(row('onBoardAll')).toBeVisible();
  await tool.getByRole('button', { name: 'Clear lens' }).click();

  await tool.getByRole('radio', { name: 'Flame graph' }).click();
  await tool.getByRole('img', { name: /Flame graph/ }).focus();
  await tool.keyboard.press('ArrowDown');
  await tool.keyboard.press('Enter');
  await expect(tool.getByRole('button', { name: 'All calls' })).toBeVisible();
  await tool.reload();
  await expect(tool.getByRole('button', { name: 'All calls' })).toBeVisible();
  await tool.goBack();
  await expect(tool.getByRole('button', { name: 'All calls' })).toHaveCount(0);
});
