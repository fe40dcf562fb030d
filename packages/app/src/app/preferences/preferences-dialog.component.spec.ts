import { signal } from '@angular/core';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import { MatSlideToggleHarness } from '@angular/material/slide-toggle/testing';
import { MatDialogRef } from '@angular/material/dialog';
import { expect, it, vi } from 'vitest';
import { USUAL_PREFERENCES, type Preferences } from '../../store/preferences';
import { shown } from '../../testing/shown';
import { PreferencesService } from '../services/preferences.service';
import { RecordingService } from '../services/recording.service';
import { PreferencesDialogComponent } from './preferences-dialog.component';

async function settings() {
  const now = signal<Preferences>(USUAL_PREFERENCES);
  const openReplay = vi.fn<() => Promise<void>>(() => Promise.resolve());
  const change = (part: Partial<Preferences>) => {
    now.set({ ...now(), ...part });
    return Promise.resolve();
  };
  const one = await shown(PreferencesDialogComponent, {}, [
    { provide: PreferencesService, useValue: { now, change } },
    { provide: RecordingService, useValue: { openReplay } },
    { provide: MatDialogRef, useValue: { close: () => undefined } },
  ]);
  const save = async () => {
    await (await one.loader.getHarness(MatButtonHarness.with({ text: /Save/ }))).click();
    await one.fixture.whenStable();
  };
  return { ...one, openReplay, now, save };
}

function type(element: HTMLElement, name: string, text: string) {
  const field = element.querySelector<HTMLInputElement>(`[name=${name}]`)!;
  field.value = text;
  field.dispatchEvent(new Event('input'));
}

it('reads the recording again where it is seen otherwise, and only then', async () => {
  const { loader, openReplay, now, save } = await settings();
  await (await loader.getHarness(MatButtonToggleHarness.with({ text: 'Dark' }))).check();
  await save();
  expect(now().theme).toBe('dark');
  expect(openReplay).not.toHaveBeenCalled();
});

it('reads it again for other thresholds', async () => {
  const { element, openReplay, now, save } = await settings();
  type(element, 'responseMs', '120');
  await save();
  expect(now().thresholds).toEqual({ responseMs: 120 });
  expect(openReplay).toHaveBeenCalledOnce();
});

it('says at each field what is wrong with it, and changes nothing', async () => {
  const { element, texts, now, save } = await settings();
  type(element, 'responseMs', '0');
  type(element, 'editorTemplate', 'javascript:alert({file})');
  type(element, 'libraryPaths', `src/desk/**\n${'x'.repeat(300)}`);
  await save();
  expect(texts('mat-error')).toEqual([
    'Links that begin with "javascript:" are not safe and are not followed.',
    'Line 2 must be at most 200 characters.',
    'It must be greater than or equal to 1.',
  ]);
  expect(now()).toBe(USUAL_PREFERENCES);
});

it('switches single letters off as keys', async () => {
  const { loader, now, save } = await settings();
  await (await loader.getHarness(MatSlideToggleHarness)).uncheck();
  await save();
  expect(now().letterKeys).toBe(false);
});
