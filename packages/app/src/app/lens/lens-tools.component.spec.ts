import { signal } from '@angular/core';
import { MatInputHarness } from '@angular/material/input/testing';
import { describe, expect, it, vi } from 'vitest';
import { fakeTime } from '../../testing/fake-time';
import { shown } from '../../testing/shown';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { USUAL_LENS, type LensState } from './lens-state';
import { LensToolsComponent } from './lens-tools.component';

async function tools() {
  const lens = signal(USUAL_LENS);
  const asked: Partial<LensState>[] = [];
  const one = await shown(LensToolsComponent, {}, [
    { provide: LensService, useValue: { lens, change: (part: Partial<LensState>) => asked.push(part) } },
    { provide: RecordingService, useValue: { opened: signal(undefined) } },
  ]);
  const field = one.element.querySelector<HTMLInputElement>('input[type=search]')!;
  const type = (text: string) => {
    field.value = text;
    field.dispatchEvent(new Event('input'));
    return one.fixture.whenStable();
  };
  return { ...one, lens, asked, field, type };
}

describe('the tools of the lens', () => {
  it('ask for a text once nobody types any more, not for each letter of it', async () => {
    const pass = fakeTime();
    const { asked, type } = await tools();
    for (const text of ['f', 'fo', 'fol', 'fold']) {
      await type(text);
      pass(150);
    }
    expect(asked).toEqual([]);
    pass(100);
    expect(asked).toEqual([{ text: 'fold' }]);
  });

  it('keep what is typed while the address still takes what was typed before', async () => {
    const { asked, type, lens, field, fixture } = await tools();
    await type('fold');
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    await type('foldA');
    lens.set({ ...USUAL_LENS, text: 'fold' });
    await fixture.whenStable();
    expect(field.value).toBe('foldA');
    await vi.waitFor(() => expect(asked.at(-1)).toEqual({ text: 'foldA' }));
  });

  it('show what the address says where it was changed elsewhere', async () => {
    const { lens, field, fixture, loader } = await tools();
    lens.set({ ...USUAL_LENS, text: 'trim', minMs: 5 });
    await fixture.whenStable();
    expect(field.value).toBe('trim');
    expect(await (await loader.getHarness(MatInputHarness.with({ value: '5' }))).getValue()).toBe('5');
  });
});
