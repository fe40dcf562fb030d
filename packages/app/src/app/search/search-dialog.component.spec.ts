import { signal } from '@angular/core';
import { MatDialogRef } from '@angular/material/dialog';
import { of } from 'rxjs';
import { describe, expect, it, vi } from 'vitest';
import type { SearchHit } from '../../workers/analysis/queries/search-queries';
import { shown } from '../../testing/shown';
import { AddressService } from '../services/address.service';
import { RecordingService } from '../services/recording.service';
import { SearchDialogComponent } from './search-dialog.component';

const HITS = [
  { type: 'sting', label: 'Tap button “Board all”', about: '840 ms', sting: 2 },
  { type: 'function', label: 'boardAll', about: 'board.ts', functionId: 9 },
] as unknown as SearchHit[];

async function dialog() {
  const gone: unknown[][] = [];
  const asked: string[] = [];
  const one = await shown(SearchDialogComponent, {}, [
    { provide: MatDialogRef, useValue: { close: () => undefined } },
    { provide: AddressService, useValue: { go: (...to: unknown[]) => gone.push(to) } },
    {
      provide: RecordingService,
      useValue: {
        opened: signal({ id: 'friday' }),
        ask: (_name: string, text: string) => {
          asked.push(text);
          return of(HITS);
        },
      },
    },
  ]);
  const field = one.element.querySelector('input')!;
  const type = async (text: string) => {
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await one.fixture.whenStable();
  };
  const press = async (key: string) => {
    field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    await one.fixture.whenStable();
  };
  return { ...one, gone, asked, type, press };
}

describe('the search', () => {
  it('asks once typing has paused, and leads to what is chosen by the keyboard', async () => {
    const { asked, gone, type, press, texts } = await dialog();
    for (const text of ['b', 'bo', 'board']) await type(text);
    await vi.waitFor(() => expect(texts('[id^=hit-]')).toHaveLength(2));
    expect(asked).toEqual(['board']);
    await press('ArrowDown');
    await press('ArrowDown');
    await press('Enter');
    expect(gone).toEqual([['calls', 'friday', { show: 'flat', function: 9, text: null }]]);
  });

  it('finds nothing for nothing', async () => {
    const { asked, type, texts } = await dialog();
    await type('   ');
    await new Promise((resolve) => setTimeout(resolve, 150));
    expect([asked, texts('[id^=hit-]')]).toEqual([[], []]);
  });
});
