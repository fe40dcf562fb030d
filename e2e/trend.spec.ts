import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { expect, test } from './stage';

test('the trend of a tag says from which recording on it is on another level', async ({ stage }) => {
  const { tool } = stage;
  await tool.getByRole('link', { name: 'Shelf' }).click();
  const demo = (name: string) =>
    gunzipSync(readFileSync(`packages/app/public/demo/${name}.nettle.jsonl.gz`)).toString('utf8');
  const texts = {
    'friday-sailing': demo('friday-sailing'),
    'friday-sailing-mended': demo('friday-sailing-mended'),
  };
  /** A recording of a day: only what the header says differs, so that its checks are left out. */
  const ofDay = (day: number, name: keyof typeof texts) => {
    const [header, ...lines] = texts[name].split('\n').filter((line) => !line.startsWith('{"kind":"check"'));
    const startedAt = new Date(Date.UTC(2026, 10, day)).toISOString();
    const more = { id: `day-${day}`, title: `release ${day}`, startedAt };
    const text = [JSON.stringify({ ...JSON.parse(header!), ...more }), ...lines].join('\n');
    return { name: `${day}.nettle.jsonl`, mimeType: 'application/json', buffer: Buffer.from(text) };
  };
  const days = Array.from({ length: 10 }, (_, at) =>
    ofDay(at + 1, at < 5 ? 'friday-sailing' : 'friday-sailing-mended'),
  );
  await tool.locator('np-shelf').getByLabel('Recording file').setInputFiles(days);
  await expect(tool.locator('.card')).toHaveCount(10);
  for (let day = 1; day <= 10; day++) {
    await tool.getByRole('link', { name: `release ${day}`, exact: true }).click();
    await expect(tool.getByRole('button', { name: 'Save file' })).toBeVisible();
    await tool.getByRole('link', { name: 'Shelf' }).click();
    await tool.getByRole('button', { name: `More about release ${day}`, exact: true }).click();
    await tool.getByRole('menuitem', { name: 'Tag' }).click();
    await tool.getByLabel('Tags, with commas between them').fill('quay');
    await tool.keyboard.press('Enter');
  }
  await tool.getByRole('listbox', { name: 'Tags' }).getByRole('option', { name: /quay/ }).click();
  await expect(tool.locator('np-trend')).toContainText(
    /Lower from “release 6” \(.*\) on: \d+ ms, before \d+ ms\./,
  );
});
