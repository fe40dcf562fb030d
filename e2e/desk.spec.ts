import type { Page } from '@playwright/test';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { RecordingClient, serve } from '../packages/server/dist/index.js';
import { expect, test } from './stage';
import { CALM } from './calm';
import { listening } from '../scripts/lib/listening.mjs';

/** What the desk shows after it has been used in all its parts. */
async function useDesk(page: Page, mended: boolean): Promise<object> {
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  const shown = (id: string) => page.locator(id).textContent();
  const boarded = async () => [
    await shown('#figure-boarded'),
    await shown('#figure-load'),
    await shown('#figure-trim'),
    await shown('#figure-list'),
  ];
  const atFirst = await boarded();
  await page.click('#board-all');
  const boardedAll = await boarded();
  await page.click('#undo-boarding');
  const undone = await boarded();
  await page.fill('#search-manifest', 'hak tang');
  const found = [await shown('#manifest-count'), await page.locator('.passenger').first().textContent()];
  await page.fill('#search-manifest', '');
  const all = await shown('#manifest-count');
  const unscrolled = (await page.locator('.passenger').first().textContent())!;
  await page.locator('#manifest-scroller').evaluate((scroller) => scroller.scrollTo(0, 3000));
  await expect(page.locator('.passenger').first()).not.toHaveText(unscrolled);
  const scrolled = await page.locator('.passenger').first().textContent();
  const vehicle = page.locator('.vehicle').nth(40);
  const box = (await vehicle.boundingBox())!;
  await page.mouse.move(box.x + 5, box.y + 5);
  await page.mouse.down();
  await page.mouse.move(box.x + 65, box.y + 25, { steps: 3 });
  const dragged = await vehicle.evaluate((it) => [it.className, (it as HTMLElement).style.transform]);
  const room = await page
    .locator('.vehicle')
    .nth(3)
    .evaluate((it) => (it as HTMLElement).style.marginLeft);
  await page.mouse.up();
  const released = await vehicle.evaluate((it) => [it.className, (it as HTMLElement).style.transform]);
  await page.click('#mend-board-all');
  const { search } = new URL(page.url());
  const departures = await page.locator('.sailing').allTextContents();
  expect(errors).toEqual([]);
  expect(boardedAll[0]).toBe('300 of 300');
  expect(undone).toEqual(atFirst);
  expect(mended).toBe(!search.includes('board-all'));
  return { atFirst, boardedAll, found, all, scrolled, dragged, room, released, search, departures };
}

for (const query of [CALM, '?mended=all']) {
  const tag = query === CALM ? ['@waits'] : [];
  test(
    `the desk${query} behaves the same alone, recorded, and with every call recorded`,
    { tag },
    async ({ browser }) => {
      const desk = await listening(createDeskServer());
      const target = desk.origin;
      const open = async (origin: string) => {
        const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
        await page.goto(`${origin}/${query}`);
        await page.waitForSelector('[data-ready]');
        return page;
      };
      const alone = await open(target);
      const expected = await useDesk(alone, query !== CALM);
      await alone.close();
      for (const mode of ['everyday', 'exact'] as const) {
        const running = await serve({ target, port: 0, proxyPort: 0, settings: { mode } });
        const client = await RecordingClient.connect(running);
        const page = await open(running.proxyOrigin);
        const joined = await client.target();
        await client.start(joined, mode);
        expect(await useDesk(page, query !== CALM)).toEqual(expected);
        expect((await client.stop(joined, mode)).length).toBeGreaterThan(20);
        client.close();
        await page.close();
        running.close();
      }
      desk.close();
    },
  );
}
