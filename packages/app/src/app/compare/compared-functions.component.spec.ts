import { MatSortHarness } from '@angular/material/sort/testing';
import type { ComparedFunction } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { shown } from '../../testing/shown';
import { ComparedFunctionsComponent } from './compared-functions.component';

const side = (selfMs: number, count: number, eachMs?: number) => ({
  selfMs,
  perUnitMs: selfMs,
  count,
  ...(eachMs === undefined ? {} : { eachMs }),
});
const compared = (about: object) =>
  ({
    name: 'bendingOf',
    place: 'src/deck/trim.ts:26',
    unit: 'interaction',
    ...about,
  }) as unknown as ComparedFunction;

describe('functions that changed', () => {
  it('say how, and leave open what is not known of a side', async () => {
    const functions = [
      compared({ change: 'cheaper', before: side(90, 0), after: side(10, 1200, 0.01) }),
      compared({ name: 'foldAccents', change: 'new', after: side(30, 4, 7.5) }),
    ];
    const { texts, element, loader } = await shown(ComparedFunctionsComponent, { functions });
    expect(texts('tbody tr').map((row) => row.split(' ')[0])).toEqual(['bendingOf', 'foldAccents']);
    expect(texts('td.figure:last-child')).toEqual(['– → 1,200', '– → 4']);
    expect([texts('.good'), texts('td .over')]).toEqual([['takes less'], ['new']]);
    expect(element.querySelector('.scroll button[mat-button]')).toBeNull();
    const sort = await loader.getHarness(MatSortHarness);
    await (await sort.getSortHeaders({ label: /Calls/ }))[0]!.click();
    expect(texts('tbody tr').map((row) => row.split(' ')[0])).toEqual(['bendingOf', 'foldAccents']);
    await (await sort.getSortHeaders({ label: /Calls/ }))[0]!.click();
    expect(texts('tbody tr').map((row) => row.split(' ')[0])).toEqual(['foldAccents', 'bendingOf']);
  });

  it('are all there when asked for, and said to be none where there is none', async () => {
    const functions = Array.from({ length: 75 }, (_, at) =>
      compared({ name: `crate${at}`, change: 'dearer', before: side(1, 0), after: side(2, 0) }),
    );
    const { texts, element, fixture, set } = await shown(ComparedFunctionsComponent, { functions });
    expect(texts('tbody tr')).toHaveLength(60);
    expect(texts('thead th')).toEqual(['Function', 'Change', 'Own time before → after', 'per']);
    element.querySelector<HTMLElement>('.scroll button[mat-button]')!.click();
    await fixture.whenStable();
    expect(texts('tbody tr')).toHaveLength(75);
    await set({ functions: [] });
    expect(texts('tbody td')[0]).toContain('No function changed');
  });
});
