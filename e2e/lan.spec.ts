import { chromium, type Browser, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { readRecording, type LanState } from '../packages/server/dist/index.js';
import { chromiumFlags, chromiumPath } from '../scripts/lib/browser.mjs';
import { expect, stingList, stopRecording, test } from './stage';

/** A second address of this computer, which stands for the one others in the room would use. */
const ADDRESS = '127.0.0.2';
const MADE_UP_AGENT =
  'Mozilla/5.0 (Linux; Android 14; Skerry 3) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Mobile Safari/537.36';

let second: Browser;
test.beforeAll(async () => {
  second = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags });
});
test.afterAll(() => second.close());

function newPhone(): Promise<Page> {
  const viewport = { width: 390, height: 780 };
  return second.newPage({ viewport, hasTouch: true, isMobile: true, userAgent: MADE_UP_AGENT });
}

type Open = Extract<LanState, { open: true }>;

test(
  'a phone of the room is let in by its code, recorded, signed, measured, and turned away',
  { tag: '@waits' },
  async ({ stage }) => {
    test.setTimeout(120_000);
    const { tool, running } = stage;
    await running.lan.open(ADDRESS);
    await tool.reload();
    const code = tool.getByRole('img', { name: /Code to scan/ });
    await expect(code).toBeVisible();
    const { origin, joinUrl } = running.lan.state as Open;
    await expect(code).toHaveAccessibleName(`Code to scan: ${joinUrl}`);
    await expect(tool.getByText(joinUrl)).toBeVisible();

    const phone = await newPhone();
    expect((await phone.goto(`${origin}/`))!.status()).toBe(403);
    await expect(phone.getByRole('heading', { name: 'Not let in' })).toBeVisible();
    await phone.goto(joinUrl.slice(0, -8) + 'AAAABBBB');
    await phone.getByRole('button', { name: 'Open the app' }).tap();
    await expect(phone.getByRole('heading', { name: 'Not let in' })).toBeVisible();
    await phone.goto(joinUrl);
    await phone.getByRole('button', { name: 'Open the app' }).tap();
    await phone.waitForSelector('[data-ready]');
    expect(phone.url()).toBe(`${origin}/`);
    expect(await phone.evaluate(() => document.cookie)).not.toContain('nettle-patch-device');
    const other = await newPhone();
    await other.goto(joinUrl);
    await other.getByRole('button', { name: 'Open the app' }).tap();
    await expect(other.getByRole('heading', { name: 'Not let in' })).toBeVisible();

    const card = tool.getByRole('radio', { name: /Boarding desk/ });
    await expect(card).toContainText('phone');
    await expect(card).toContainText(/\d+ Hz/);
    await expect(card).toContainText(/(slower|quicker) than this computer|as quick as this computer/);
    const sign = phone.locator('[data-nettle-patch="sign"]');
    await expect(sign).toHaveCount(0);
    await tool.getByRole('button', { name: 'Record', exact: true }).click();
    await expect(tool.getByText('Recording ·')).toBeVisible();
    await expect(sign).toBeVisible();
    await phone.locator('#board-all').tap();
    await phone.waitForTimeout(1500);
    const box = (await sign.boundingBox())!;
    await phone.touchscreen.tap(box.x + box.width - 16, box.y + box.height / 2);
    await expect(sign).toHaveCount(0);
    await phone.waitForTimeout(500);
    await stopRecording(tool);
    await stingList(tool).filter({ hasText: 'Tap button “Board all”' }).first().click();
    await expect(tool.locator('np-culprits tbody tr').filter({ hasText: 'bendingOfPair' })).toBeVisible();

    const saved = tool.waitForEvent('download');
    await tool.getByRole('button', { name: 'Save file' }).click();
    const { recording } = readRecording([gunzipSync(readFileSync(await (await saved).path()))]);
    expect(recording.header.speed).toBeGreaterThan(0.2);
    expect(recording.header.target).toMatchObject({ device: expect.stringContaining('phone') as string });
    expect(JSON.stringify([...recording.sources.values()])).toContain(origin);

    await tool.getByRole('link', { name: 'Record', exact: true }).click();
    await tool.getByRole('button', { name: 'Disconnect' }).click();
    await expect(card).toHaveCount(0);
    expect((await phone.reload())!.status()).toBe(403);
    await tool.getByRole('button', { name: 'Stop accepting devices' }).click();
    await expect(tool.getByRole('button', { name: 'Accept a phone' })).toBeVisible();
    await expect(phone.goto(`${origin}/`)).rejects.toThrow(/ERR_CONNECTION_REFUSED/);
  },
);

test('the tool itself, its recordings and its settings cannot be reached from the room', async ({
  stage,
}) => {
  const { running } = stage;
  await running.lan.open(ADDRESS);
  const { origin, joinUrl } = running.lan.state as Open;
  const toolPort = new URL(running.interfaceOrigin).port;
  await expect(fetch(`http://${ADDRESS}:${toolPort}/`)).rejects.toThrow();
  const pairing = await fetch(joinUrl, { method: 'POST', headers: { accept: 'text/plain' } });
  const secret = await pairing.text();
  expect(pairing.status).toBe(200);
  const headers = { cookie: `nettle-patch-device=${secret}` };
  expect((await fetch(`${origin}/`, { headers })).status).toBe(200);
  const asked = await fetch(`${origin}/api/settings`, {
    headers: { ...headers, authorization: `Bearer ${secret}` },
  });
  expect(await asked.text()).not.toContain('"mode"');
  const api = await fetch(`${running.interfaceOrigin}/api/settings`, {
    headers: { authorization: `Bearer ${secret}` },
  });
  expect(api.status).toBe(401);
  const elsewhere = await fetch(`${origin}/__nettle-patch/pair/ABCD`, {
    method: 'POST',
    headers: { origin: 'http://tides.example' },
  });
  expect(elsewhere.status).toBe(405);
});
