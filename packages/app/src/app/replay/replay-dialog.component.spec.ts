import { signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import type { Step } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { shown } from '../../testing/shown';
import { AppsService } from '../services/apps.service';
import { FilesService } from '../services/files.service';
import { CompareService } from '../services/compare.service';
import { ReplayService, type ReplayRequest, type ReplayState } from '../services/replay.service';
import { ReplayDialogComponent } from './replay-dialog.component';

const STEPS: Step[] = [
  { do: 'click', on: '#board-all' },
  { do: 'wait', ms: 500 },
];

async function dialog(state: ReplayState = { state: 'idle' }) {
  const requests: ReplayRequest[] = [];
  let isClosed = false;
  const one = await shown(ReplayDialogComponent, {}, [
    { provide: MAT_DIALOG_DATA, useValue: { steps: STEPS } },
    { provide: MatDialogRef, useValue: { close: () => (isClosed = true) } },
    { provide: FilesService, useValue: { open: () => Promise.resolve() } },
    { provide: CompareService, useValue: { rememberBefore: () => undefined } },
    { provide: AppsService, useValue: { served: signal([]), problem: signal('') } },
    {
      provide: ReplayService,
      useValue: {
        state: signal(state),
        browsers: signal([
          { name: 'chromium', missing: null },
          { name: 'firefox', missing: 'firefox-esr' },
        ]),
        reset: () => undefined,
        lookForBrowsers: () => undefined,
        cancel: () => undefined,
        run: (request: ReplayRequest) => {
          requests.push(request);
          return Promise.resolve(true);
        },
      },
    },
  ]);
  const button = (text: string | RegExp) => one.loader.getHarness(MatButtonHarness.with({ text }));
  return { ...one, requests, button, isClosed: () => isClosed };
}

describe('doing it again', () => {
  it('takes the steps that are left, as often and where it is chosen, and closes when it is done', async () => {
    const { element, loader, requests, button, fixture, isClosed } = await dialog();
    element.querySelector<HTMLButtonElement>('[aria-label="Leave out step 2"]')!.click();
    await fixture.whenStable();
    expect(element.querySelector<HTMLButtonElement>('[aria-label="Leave out step 1"]')!.disabled).toBe(true);
    await (await loader.getHarness(MatButtonToggleHarness.with({ text: 'exact' }))).check();
    await (await loader.getHarness(MatButtonToggleHarness.with({ text: '4 × slower' }))).check();
    await (await loader.getHarness(MatCheckboxHarness.with({ label: /Fresh load/ }))).uncheck();
    await (await button(/^Run /)).click();
    expect(requests).toMatchObject([
      {
        steps: [STEPS[0]],
        times: 10,
        browser: 'chromium',
        mode: 'exact',
        slow: 4,
        freshLoads: false,
        path: '/',
      },
    ]);
    expect(isClosed()).toBe(true);
  });

  it('refuses steps that are none, with words, and keeps those it had', async () => {
    const { element, button, texts, fixture } = await dialog();
    await (await button('Edit as a file')).click();
    const area = element.querySelector('textarea')!;
    area.value = '{"steps":[{"do":"sail"}]}';
    area.dispatchEvent(new Event('input'));
    await (await button('Apply')).click();
    expect(texts('[role=alert]')[0]).toContain('sail');
    await (await button('Discard changes')).click();
    await fixture.whenStable();
    expect(texts('ol li .deed')).toHaveLength(2);
  });

  it('says what to install for a browser that is not there', async () => {
    const { loader, texts } = await dialog();
    await (await loader.getHarness(MatButtonToggleHarness.with({ text: 'firefox' }))).check();
    expect(texts('code')).toEqual(['apt-get install firefox-esr']);
  });

  it('tells how far it is, and why it failed', async () => {
    const running = await dialog({ state: 'running', done: 3, of: 10, inBrowser: true });
    expect(running.texts('[role=status]')[0]).toContain('Round 4 of 10');
  });
});
