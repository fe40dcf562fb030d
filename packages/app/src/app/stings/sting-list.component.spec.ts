import { MatButtonHarness } from '@angular/material/button/testing';
import { MatChipListboxHarness } from '@angular/material/chips/testing';
import { describe, expect, it } from 'vitest';
import type { ListedSeries, ListedSting } from '../../workers/analysis/analysis-results';
import { shown } from '../../testing/shown';
import { StingListComponent } from './sting-list.component';

const sting = (about: Partial<ListedSting>): ListedSting => ({
  kind: 'slow-response',
  also: [],
  extent: 'block',
  isRate: false,
  thread: 0,
  label: 'Tap button “Board all”',
  startMs: 1000,
  endMs: 1840,
  feltMs: 840,
  budgetMs: 200,
  parts: [
    { name: 'waiting', ms: 40 },
    { name: 'handling', ms: 800 },
  ],
  idleMs: 0,
  ...about,
});

const STINGS = [
  sting({ also: ['hang'] }),
  sting({ feltMs: 420, endMs: 1420 }),
  sting({
    kind: 'idle-work',
    label: 'Idle work of drawTide',
    feltMs: 31,
    budgetMs: 20,
    isRate: true,
    detail: { type: 'idle-work' },
    parts: [{ name: 'handling', ms: 31 }],
  }),
];
const SERIES: ListedSeries[] = [
  { label: 'Tap button “Board all”', stings: [0, 1], attempts: 4 },
  { label: 'Idle work of drawTide', stings: [2] },
];

const THREADS = [
  { id: 0, name: 'Main thread' },
  { id: 2, name: 'worker: tides' },
];

const list = (more: Readonly<Record<string, unknown>> = {}) =>
  shown(StingListComponent, {
    series: SERIES,
    stings: STINGS,
    threads: THREADS,
    all: SERIES,
    kinds: [],
    ...more,
  });

describe('the list of stings', () => {
  it('says of each how often, against which budget, and whether it is a delay or a part of each second', async () => {
    const { texts } = await list();
    expect(texts('ol button')).toEqual([
      'Tap button “Board all”840 msslow response · hang · 2 of 4 timesbudget 200 ms',
      'Idle work of drawTide31 ms/sidle workbudget 20 ms/s',
    ]);
  });

  it('says on which thread one was, where that is not the main one', async () => {
    const { texts } = await list({ stings: [sting({}), sting({}), sting({ thread: 2 })] });
    const [main, worker] = texts('ol .how');
    expect(main).not.toContain('on ');
    expect(worker).toContain('on worker: tides');
  });

  it('lists what goes on apart from delays, each group on a scale of its own', async () => {
    const { element, texts } = await list();
    expect(texts('h3')).toEqual(['Delays 2', 'Ongoing costs, per second 1']);
    const widths = [...element.querySelectorAll('ol')].map((one) =>
      [...one.querySelectorAll<HTMLElement>('.bar i')].map((part) => parseFloat(part.style.width)),
    );
    expect(widths.map((parts) => Math.round(parts.reduce((sum, width) => sum + width, 0)))).toEqual([
      100, 100,
    ]);
  });

  it('counts stings, as the verdict does, in its heading and at each kind', async () => {
    const { texts } = await list();
    expect(texts('h2')).toEqual(['3 stings']);
    expect(texts('mat-chip-option')).toEqual(['slow response 2', 'idle work 1']);
    const some = await list({ series: SERIES.slice(1) });
    expect(some.texts('h2')).toEqual(['1 of 3 stings']);
  });

  it('offers the kinds there are, and asks for those that are chosen', async () => {
    const { component, loader } = await list({ kinds: ['idle-work'] });
    const asked: unknown[] = [];
    component.kindsChange.subscribe((kinds) => asked.push(kinds));
    const [response, idle] = await (await loader.getHarness(MatChipListboxHarness)).getChips();
    expect([await response!.isSelected(), await idle!.isSelected()]).toEqual([false, true]);
    await response!.toggle();
    await idle!.toggle();
    expect(asked).toEqual([['slow-response', 'idle-work'], ['slow-response']]);
  });

  it('says that the lens hides some, and takes it away', async () => {
    const { component, loader } = await list({ series: SERIES.slice(1) });
    let taken = 0;
    component.showAll.subscribe(() => taken++);
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Show all' }))).click();
    expect(taken).toBe(1);
  });
});
