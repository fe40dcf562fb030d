import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, test } from '@playwright/test';
import { serve } from '../packages/server/dist/index.js';
import { localApp } from './local-app';

/** An app at one of the ports at which dev servers usually are; undefined where all are taken. */
async function usualApp(title: string): Promise<{ origin: string; close(): void } | undefined> {
  for (const port of [8888, 9000, 8081, 4321]) {
    const server = createServer((_request, response) =>
      response.writeHead(200, { 'content-type': 'text/html' }).end(`<title>${title}</title>${title}`),
    );
    const isOpen = await new Promise<boolean>((resolve) =>
      server
        .once('error', () => resolve(false))
        .once('listening', () => resolve(true))
        .listen(port, '127.0.0.1'),
    );
    if (isOpen)
      return {
        origin: `http://localhost:${(server.address() as AddressInfo).port}`,
        close() {
          server.close();
          server.closeAllConnections();
        },
      };
  }
  return undefined;
}

test('an app is chosen in the Record view, another added by its address, and each is opened at its own', async ({
  page,
  context,
}) => {
  const quay = (await usualApp('Quay'))!;
  const office = await localApp((_request, response) =>
    response.writeHead(200, { 'content-type': 'text/html' }).end('<title>Office</title>Office'),
  );
  const running = await serve({ port: 0, proxyPort: 0 });
  await page.goto(running.address);
  await expect(page.getByText('Choose the app to record')).toBeVisible();
  await expect(page.locator('.app', { hasText: quay.origin })).toContainText('Quay');
  await page.getByRole('button', { name: `Add ${quay.origin}` }).click();
  await expect(page.getByRole('link', { name: 'Open the app' })).toHaveCount(1);

  const field = page.getByRole('textbox', { name: 'Another app' });
  await page.getByRole('button', { name: 'Add another app' }).click();
  await field.fill('ftp://office');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.locator('mat-error')).toContainText('"ftp://office" is no address of a web server');
  await field.fill(office.origin.replace('http://', ''));
  await expect(page.locator('mat-error')).toBeHidden();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const links = page.getByRole('link', { name: 'Open the app' });
  await expect(links).toHaveCount(2);
  await expect(field).toBeHidden();

  for (const [at, title] of ['Quay', 'Office'].entries()) {
    const [opened] = await Promise.all([context.waitForEvent('page'), links.nth(at).click()]);
    await expect(opened.locator('body')).toContainText(title);
    await expect(page.locator('np-target-card', { hasText: title })).toBeVisible();
  }
  await page.getByRole('button', { name: `Remove ${quay.origin}` }).click();
  await expect(links).toHaveCount(1);
  await expect(page.locator('np-target-card')).toHaveCount(1);

  await page.getByRole('button', { name: `Change ${office.origin}` }).click();
  await page.getByRole('textbox', { name: 'New address' }).fill(quay.origin);
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(page.locator('.app').getByText(quay.origin)).toBeVisible();
  await expect(page.locator('.app').getByText(office.origin)).toHaveCount(0);
  await expect(links).toHaveCount(1);
  await expect(page.locator('np-target-card')).toHaveCount(0);
  running.close();
  quay.close();
  office.close();
});
