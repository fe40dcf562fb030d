import type { Page } from '@playwright/test';
import { expect, stingList, test } from './stage';

/** More steps than any view has places to stop at. */
const MAX_STEPS = 400;

/** What the Tab key comes to on a page, from its beginning to its end, and what it should come to. */
async function walked(page: Page): Promise<{ missed: string[]; unseen: string[] }> {
  await page.evaluate(() => {
    (document.activeElement as HTMLElement | null)?.blur();
    document.body.tabIndex = -1;
    document.body.focus();
    document.body.removeAttribute('tabindex');
    for (const marked of document.querySelectorAll('[data-walked]')) marked.removeAttribute('data-walked');
  });
  const unseen: string[] = [];
  for (let step = 0; step < MAX_STEPS; step++) {
    await page.keyboard.press('Tab');
    const stop = await page.evaluate(() => {
      const at = document.activeElement as HTMLElement | null;
      if (at === null || at === document.body || at.dataset['walked'] !== undefined) return undefined;
      at.dataset['walked'] = '';
      const name = `${at.tagName.toLowerCase()} ${at.getAttribute('aria-label') ?? at.textContent.trim().slice(0, 40)}`;
      const outlined = (element: Element | null): boolean => {
        if (element === null) return false;
        const { outlineStyle, outlineWidth } = getComputedStyle(element);
        return outlineStyle !== 'none' && parseFloat(outlineWidth) > 0;
      };
      const field = at.closest(
        '.mat-mdc-form-field, .mdc-text-field, .mat-mdc-radio-button, .mat-mdc-checkbox',
      );
      return { name, isSeen: outlined(at) || field !== null };
    });
    if (stop === undefined) break;
    if (!stop.isSeen) unseen.push(stop.name);
  }
  const missed = await page.evaluate(() => {
    const isShown = (element: HTMLElement) =>
      element.checkVisibility({ visibilityProperty: true }) &&
      element.closest('[inert], [aria-hidden=true]') === null;
    const isRoving = (element: HTMLElement) =>
      element.closest('mat-radio-group, [role=radiogroup], [role=grid], [role=listbox], mat-chip-set') !==
      null;
    return [
      ...document.querySelectorAll<HTMLElement>(
        'a[href], button:not([disabled]), input:not([disabled]), [tabindex="0"]',
      ),
    ]
      .filter((element) => element.tabIndex >= 0 && isShown(element) && !isRoving(element))
      .filter((element) => element.dataset['walked'] === undefined)
      .map(
        (element) =>
          `${element.tagName.toLowerCase()} ${element.getAttribute('aria-label') ?? element.textContent.trim().slice(0, 40)}`,
      );
  });
  return { missed, unseen };
}

test('the Tab key comes to everything in each view, and one sees where it is', async ({ stage }) => {
  test.setTimeout(240_000);
  const { tool } = stage;
  const nothing = { missed: [], unseen: [] };
  await expect(tool.getByRole('link', { name: 'Open the app' })).toBeVisible();
  await expect.soft(await walked(tool), 'record').toEqual(nothing);
  await tool.getByRole('button', { name: 'Demo recording' }).click();
  await expect(stingList(tool).first()).toBeVisible();
  await expect(tool.locator('np-culprits tbody tr').first()).toBeVisible();
  await expect.soft(await walked(tool), 'stings').toEqual(nothing);
  const views = tool.getByRole('navigation', { name: 'Views' });
  const ready: readonly [string, string][] = [
    ['Timeline', '[data-lane="thread 0"]'],
    ['Calls', 'np-call-table tbody tr'],
    ['Source', '.cm-content'],
    ['Shelf', '.card'],
    ['Compare', 'np-compare'],
  ];
  for (const [name, there] of ready) {
    await views.getByRole('link', { name }).click();
    await tool.locator(there).first().waitFor();
    await tool.waitForTimeout(500);
    await expect.soft(await walked(tool), name).toEqual(nothing);
  }
});
