import { test as base, expect, type Browser, type BrowserContext, type Page } from '@playwright/test';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { scriptedParts, serve } from '../packages/server/dist/index.js';
import { CALM } from './calm';
import { listening } from '../scripts/lib/listening.mjs';

interface Running {
  readonly address: string;
  readonly interfaceOrigin: string;
  readonly proxyOrigin: string;
  close(): void;
}

/** The real server in front of the real boarding desk, with the tool in one page of a fresh browser profile. */
export interface Stage {
  readonly running: Running;
  readonly context: BrowserContext;
  readonly tool: Page;
  openDesk(query?: string): Promise<Page>;
}

export const test = base.extend<{ stage: Stage }>({
  stage: async ({ browser }, use) => {
    const desk = await listening(createDeskServer());
    const target = desk.origin;
    const running: Running = await serve({
      target,
      port: 0,
      proxyPort: 0,
      parts: scriptedParts,
    });
    const context = await newContext(browser);
    const tool = await context.newPage();
    await tool.goto(running.address);
    await use({ running, context, tool, openDesk: (query = CALM) => openDesk(context, running, query) });
    await context.close();
    running.close();
    desk.close();
  },
});

export { expect };

function newContext(browser: Browser): Promise<BrowserContext> {
  return browser.newContext({
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    reducedMotion: 'reduce',
  });
}

async function openDesk(context: BrowserContext, running: Running, query: string): Promise<Page> {
  const page = await context.newPage();
  await page.goto(`${running.proxyOrigin}/${query}`);
  await page.waitForSelector('[data-ready]');
  return page;
}

/** Starts recording from the tool and brings the desk to the front, as a person would. */
export async function startRecording(tool: Page, desk: Page): Promise<void> {
  await tool.bringToFront();
  await tool.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(tool.getByText('Recording ·')).toBeVisible();
  await desk.bringToFront();
  await desk.waitForTimeout(300);
}

/** Stops recording; the tool then shows the stings. */
export async function stopRecording(tool: Page): Promise<void> {
  await tool.bringToFront();
  await tool.getByRole('button', { name: 'Stop' }).click();
  await tool.waitForURL(/\/stings\//);
  await expect(tool.getByRole('button', { name: 'Save file' })).toBeVisible();
}

export const stingList = (tool: Page) => tool.getByRole('list', { name: /^Stings: / }).getByRole('button');

/** The parts of the delay as the interface shows them, in milliseconds. */
export async function shownParts(tool: Page): Promise<{ feltMs: number; sumMs: number }> {
  await tool.locator('np-blame [data-part="total"]').waitFor();
  const parts = tool.locator('np-blame [data-part]');
  const values = await parts.evaluateAll((cells) =>
    cells.map((cell) => [cell.getAttribute('data-part'), Number(cell.getAttribute('data-ms'))] as const),
  );
  const feltMs = values.find(([part]) => part === 'total')![1];
  const sumMs = values.filter(([part]) => part !== 'total').reduce((sum, [, ms]) => sum + ms, 0);
  return { feltMs, sumMs };
}

/** From a culprit of the sting that is shown to its line in Source, with its cost beside it. */
export async function toSource(tool: Page, culprit: string, file: RegExp): Promise<void> {
  const where = tool.locator('np-culprits tbody tr').filter({ hasText: culprit }).first().locator('.where');
  const [path, line] = (await where.getAttribute('title'))!.split(':') as [string, string];
  expect(path).toMatch(file);
  await where.click();
  await tool.waitForURL(/\/source\//);
  await expect(tool.locator('np-source header h2')).toHaveAttribute('title', file);
  const active = tool.locator('.cm-activeLine');
  await expect(active).toBeVisible();
  const numbers = tool.locator('.cm-lineNumbers .cm-gutterElement');
  const number = numbers.filter({ hasText: new RegExp(`^${line}$`) });
  const [at, beside] = [(await active.boundingBox())!, (await number.boundingBox())!];
  expect(Math.abs(at.y - beside.y)).toBeLessThan(4);
  const figures = tool.locator('.cm-gutter.cost .figure').filter({ hasText: /\d/, visible: true });
  await expect(figures.first()).toBeVisible();
}
