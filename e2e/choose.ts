import type { Locator, Page } from '@playwright/test';

/** Opens a field and chooses one of what it offers. */
export async function choose(page: Page, field: string, option: string | RegExp): Promise<void> {
  await fieldOf(page, field).click();
  await page.getByRole('option', { name: option, exact: typeof option === 'string' }).click();
}

/** A field that offers a list. */
export function fieldOf(page: Page, name: string): Locator {
  return page.getByRole('combobox', { name, exact: true });
}
