import { MatButtonHarness } from '@angular/material/button/testing';
import { MatChipHarness } from '@angular/material/chips/testing';
import { signal } from '@angular/core';
import { describe, expect, it } from 'vitest';
import { shown } from '../../testing/shown';
import { AddressService } from '../services/address.service';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { LensBarComponent } from './lens-bar.component';
import { USUAL_LENS, type LensState } from './lens-state';

async function bar(lens: Partial<LensState> = {}, view = 'calls') {
  const asked: Partial<LensState>[] = [];
  const service = {
    lens: signal({ ...USUAL_LENS, ...lens }),
    slower: signal(lens.slower ?? 1),
    change: (part: Partial<LensState>) => asked.push(part),
  };
  const recordings = {
    functionName: () => signal('foldAccents'),
    functionNames: () => signal(['foldAccents', 'bendingOf']),
    opened: signal({ threads: [{ id: 3, name: 'manifest.js' }] }),
  };
  const one = await shown(LensBarComponent, {}, [
    { provide: AddressService, useValue: { view: signal(view), query: signal({}) } },
    { provide: LensService, useValue: service },
    { provide: RecordingService, useValue: recordings },
  ]);
  return { ...one, asked };
}

describe('the lens bar', () => {
  it('says what is shown where nothing is left out, and has nothing to clear', async () => {
    const { loader, texts } = await bar();
    expect(texts('span.soft').at(-1)).toBe('whole recording, main thread, libraries folded');
    expect(await loader.getAllHarnesses(MatButtonHarness.with({ text: 'Clear lens' }))).toEqual([]);
  });

  it('has a chip for each thing that it leaves out, and takes away that one alone', async () => {
    const { loader, asked } = await bar({
      range: { startMs: 1250, endMs: 3250 },
      thread: 3,
      foldLibraries: false,
      foldRecursion: true,
      minMs: 5,
      focus: [7, 9],
      text: 'trim',
      slower: 4,
    });
    const chips = await loader.getAllHarnesses(MatChipHarness);
    const words = await Promise.all(chips.map((chip) => chip.getText()));
    expect(words).toEqual([
      '2.00 s from 1.25 s',
      'manifest.js',
      'libraries opened',
      'recursion folded',
      '5 ms or more',
      'only foldAccents',
      'or bendingOf',
      '≈ 4 × slower device',
      '“trim”',
    ]);
    for (const chip of chips) await chip.remove();
    expect(asked).toEqual([
      { range: undefined },
      { thread: 0 },
      { foldLibraries: true },
      { foldRecursion: false },
      { minMs: 0 },
      { focus: [9] },
      { focus: [7] },
      { slower: 1 },
      { text: '' },
    ]);
  });

  it('says of what the view does not do that it does not, and nothing of what it never does', async () => {
    const { loader, texts } = await bar({ foldRecursion: true, minMs: 5 }, 'timeline');
    const chips = await loader.getAllHarnesses(MatChipHarness);
    expect(await Promise.all(chips.map((chip) => chip.getText()))).toEqual([
      'recursion folded, not in this view',
      '5 ms or more',
    ]);
    expect(texts('span.soft').join(' ')).not.toContain('folded');
    const usual = await bar({}, 'timeline');
    expect(usual.texts('span.soft').at(-1)).toBe('whole recording, libraries drawn thin');
  });

  it('clears all of it at once', async () => {
    const { loader, asked } = await bar({ minMs: 5 });
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Clear lens' }))).click();
    expect(asked).toEqual([USUAL_LENS]);
  });
});
