import { signal } from '@angular/core';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatRadioGroupHarness } from '@angular/material/radio/testing';
import { DEFAULT_SETTINGS, type ProxySettings, type Target } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { DESK_TARGET } from '../../testing/desk-target';
import { shown } from '../../testing/shown';
import { SettingsService } from '../services/settings.service';
import { ShelfService } from '../services/shelf.service';
import { CaptureModeComponent } from './capture-mode.component';

async function chooser(
  settings: Partial<ProxySettings> = {},
  target: Partial<Target> = {},
  kept: object[] = [],
) {
  const changed: Partial<ProxySettings>[] = [];
  const one = await shown(CaptureModeComponent, { target: { ...DESK_TARGET, ...target } }, [
    {
      provide: SettingsService,
      useValue: {
        settings: signal({ ...DEFAULT_SETTINGS, ...settings }),
        problem: signal(''),
        change: (part: Partial<ProxySettings>) => changed.push(part),
      },
    },
    { provide: ShelfService, useValue: { recordings: signal(kept) } },
  ]);
  return { ...one, changed };
}

const EXACT = { mode: 'exact' } as const;

describe('how closely to look', () => {
  it('offers all ways, says what each costs in this browser, and hands on the choice', async () => {
    const { loader, changed, texts } = await chooser({}, { missing: ['js-self-profiling'] });
    expect(texts('mat-radio-button')[0]).toContain('This browser gives no call stacks');
    const group = await loader.getHarness(MatRadioGroupHarness);
    expect(await group.getCheckedValue()).toBe('fine');
    await group.checkRadioButton({ label: /^Exact calls/ });
    expect(changed).toEqual([EXACT]);
  });

  it('says what exact calls would cost this page, by its latest recording in fine mode', async () => {
    const { url: targetUrl, engine } = DESK_TARGET;
    const kept = (title: string, createdAt: string, exactFactor: number | undefined, more: object = {}) => ({
      ...{ title, targetUrl, engine, createdAt, verdict: { exactFactor } },
      ...more,
    });
    expect((await chooser()).texts('mat-radio-button')[2]).toContain('tells beforehand');
    const recordings = [
      kept('Deck one', '2031-04-03T10:00', 3.14),
      kept('Deck two', '2031-04-03T11:00', 1.42),
      kept('Everyday', '2031-04-03T12:00', undefined),
      kept('Elsewhere', '2031-04-03T13:00', 9, { engine: 'Gecko 153' }),
    ];
    const [, , exact] = (await chooser({}, {}, recordings)).texts('mat-radio-button');
    expect(exact).toContain('at least × 1.4 as long, by the calls that were counted. (“Deck two”)');
  });

  it('says which function is looked at closer, until it is no longer wanted', async () => {
    const closer = 'src/desk/deck/trim.ts:35:3';
    const settings = { mode: 'fine', isModeChosen: true, closer } as const;
    const { texts, loader, changed } = await chooser(settings, { available: ['fine-samples'] });
    expect(texts('.closer span')[0]).toContain(closer);
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Stop looking closer' }))).click();
    expect(changed).toEqual([{ closer: '' }]);
  });

  it('has fine chosen beforehand where the engine takes no samples, until somebody chooses otherwise', async () => {
    const noSampler = { missing: ['js-self-profiling'] };
    const checked = async (settings: Partial<ProxySettings>, target: Partial<Target>) => {
      const { loader } = await chooser(settings, target);
      return (await loader.getHarness(MatRadioGroupHarness)).getCheckedValue();
    };
    expect(await checked({}, noSampler)).toBe('fine');
    expect(await checked({ isModeChosen: true }, noSampler)).toBe('everyday');
    expect(await checked({}, {})).toBe('everyday');
  });

  it('says beforehand what would not load in the page that is chosen, were it isolated', async () => {
    const foreign = { frames: ['frame “Pay” of https://pay.skerry'], origins: ['https://maps.skerry'] };
    const { texts, set } = await chooser({ mode: 'fine' }, { foreign });
    expect(texts('.more p')[0]).toContain('The frame “Pay” of https://pay.skerry will not load.');
    expect(texts('.more p')[0]).toContain('Files from https://maps.skerry are asked for without cookies.');
    await set({ target: { ...DESK_TARGET, foreign: { frames: [], origins: [] } } });
    expect(texts('.more p')[0]).toContain('It holds nothing from other origins so far.');
  });

  it('isolates a page, and leaves scripts alone whose addresses are written with commas between', async () => {
    const { loader, changed, element } = await chooser(EXACT);
    await (await loader.getHarness(MatCheckboxHarness.with({ label: /See into hangs/ }))).check();
    const field = element.querySelector('input[type=text]') as HTMLInputElement;
    field.value = ' vendor,, quay ';
    field.dispatchEvent(new Event('change'));
    expect(changed).toEqual([{ isolate: true }, { leaveOut: ['vendor', 'quay'] }]);
  });
});
