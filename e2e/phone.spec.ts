import { readFileSync } from 'node:fs';
import { expect, startRecording, stingList, test } from './stage';

test('the deckhand’s phone is started, recorded and looked into in every view, in its own terms', async ({
  stage,
}) => {
  test.setTimeout(120_000);
  const { tool } = stage;
  await tool.getByRole('button', { name: /^A native app/ }).click();
  await tool.getByRole('button', { name: 'Start the deckhand’s phone' }).click();
  await expect(tool.getByRole('radio', { name: /Deckhand · Skerry Line/ })).toBeVisible();
  await expect(tool.getByText('Deckhand 3 · phone, 60 Hz')).toBeVisible();
  await startRecording(tool, tool);
  await tool.waitForTimeout(13_500);
  await tool.getByRole('button', { name: 'Stop' }).click();
  await tool.waitForURL(/\/stings\//);

  await stingList(tool).filter({ hasText: 'Tap button “Scan ticket”' }).first().click();
  await expect(tool.locator('np-because')).toContainText('Ticket.scan');
  await stingList(tool).filter({ hasText: 'Tap button “Sync manifest”' }).first().click();
  await expect(tool.locator('np-because')).toContainText('Manifest.sync');
  await stingList(tool).filter({ hasText: 'Tap button “Deck list”' }).first().click();
  await expect(tool.locator('np-because')).toContainText('called up to 14 times');
  await expect(tool.locator('np-sting-case')).toContainText('line 21');
  // What holds of pages in a browser only is not said.
  await expect(tool.locator('np-sting-case')).not.toContainText('in steps of');
  await expect(tool.getByRole('button', { name: 'Look closer' })).toHaveCount(0);

  const views = tool.getByRole('navigation', { name: 'Views' });
  await views.getByRole('link', { name: 'Timeline' }).click();
  for (const lane of ['sync', 'activity', 'thread 0', 'thread 2']) {
    await expect(tool.locator(`[data-lane="${lane}"]`)).toBeVisible();
  }
  await views.getByRole('link', { name: 'Calls' }).click();
  await tool.getByRole('radio', { name: 'Flat' }).click();
  await expect(tool.locator('[role=grid] tr[data-at]').filter({ hasText: 'Ticket.scan' })).toBeVisible();
  await views.getByRole('link', { name: 'Source' }).click();
  await expect(tool.locator('np-source nav li').filter({ hasText: 'ticket.hand' })).toBeVisible();
  await tool.locator('np-source nav li').filter({ hasText: 'deck_row.hand' }).click();
  const line = tool.locator('np-source tbody tr').nth(1).locator('td');
  await expect(line.first()).toHaveText('21');
  await expect(line.last()).toHaveText('DeckRow.inflate');

  await views.getByRole('link', { name: 'Record' }).click();
  await tool.getByRole('button', { name: 'Stop the phone' }).click();
  await expect(tool.getByRole('button', { name: 'Start the deckhand’s phone' })).toBeVisible();
});

test('a program sends a whole recording, which is put on the shelf; what is none is told of', async ({
  stage,
}) => {
  const { tool, running } = stage;
  const reserved = `${running.proxyOrigin}/__nettle-patch/`;
  const secret = await (await fetch(`${reserved}join`)).text();
  const send = async (body: Uint8Array<ArrayBuffer>) =>
    (await fetch(`${reserved}file?secret=${secret}`, { method: 'POST', body })).status;
  const demo = new URL('../packages/app/public/demo/friday-sailing.nettle.jsonl.gz', import.meta.url);
  await expect.poll(() => send(new Uint8Array(readFileSync(demo)))).toBe(202);
  await expect(tool.getByText('A recording was sent here')).toBeVisible();
  await tool.getByRole('button', { name: 'Open', exact: true }).click();
  await expect(stingList(tool).filter({ hasText: 'Board all' }).first()).toBeVisible();
  expect(await send(new TextEncoder().encode('ahoy there'))).toBe(202);
  await expect(tool.getByText('A file that was sent here was not kept')).toBeVisible();
  await tool.close();
  await expect.poll(() => send(new TextEncoder().encode('ahoy'))).toBe(503);
});
