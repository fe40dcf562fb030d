import { CALM } from './calm';
import { needs } from './scripted';
import { expect, startRecording, stopRecording, test } from './stage';

test(
  'what was done is held against another version, from Repeat automatically, and the mended one is faster',
  { tag: '@waits' },
  async ({ stage }) => {
    needs('chromium');
    test.setTimeout(300_000);
    const { tool, running } = stage;
    const desk = await stage.openDesk();
    await startRecording(tool, desk);
    await desk.click('#board-all');
    await desk.waitForTimeout(1500);
    await stopRecording(tool);

    await tool.getByRole('button', { name: 'Repeat automatically' }).click();
    const dialog = tool.getByRole('dialog', { name: 'Repeat automatically' });
    await dialog.getByLabel('Other number of times').fill('8');
    await dialog.getByLabel('Page').fill(`/${CALM}`);
    const against = dialog.getByLabel('Against another version');
    await against.fill('nowhere');
    await dialog.getByRole('button', { name: 'Compare, 8 loads of each' }).click();
    await expect(dialog.getByRole('alert')).toContainText('"nowhere" is no address');
    await against.fill(`${running.proxyOrigin}/?mended=all`);
    await dialog.getByRole('button', { name: 'Compare, 8 loads of each' }).click();
    await expect(dialog.getByRole('status')).toContainText(/Load 2 of 16 at most, about .* to go/, {
      timeout: 60_000,
    });
    const outcome = dialog.locator('np-versus-outcome');
    await expect(outcome).toContainText('Nothing is slower in B', { timeout: 200_000 });
    await expect(outcome.getByRole('row', { name: /^Tap button “Board all” \d/ })).toContainText('faster');
    await outcome.getByRole('button', { name: 'Report' }).click();
    const download = tool.waitForEvent('download');
    await tool.getByRole('menuitem', { name: 'Save page' }).click();
    expect((await download).suggestedFilename()).toBe('A-against-B.html');

    await outcome.getByRole('button', { name: 'Compare the typical loads' }).click();
    await expect(dialog).toBeHidden();
    await expect(tool).toHaveURL(/\/compare\?/);
    await expect(tool.locator('main')).toContainText(/: A, round \d/);
    await expect(tool.locator('main')).toContainText(/: B, round \d/);
  },
);
