import { WIDE_LENS, type TimeBreakdown } from '@nettle-patch/core';
import { Subject } from 'rxjs';
import { describe, expect, it, vi } from 'vitest';
import { shown } from '../../testing/shown';
import type { WindowSums } from '../../workers/analysis/window-sums';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { RangeSumsComponent } from './range-sums.component';
import { RedrawTableComponent } from './redraw-table.component';

const redraws = (target: string, count: number, visible: number, about: object = {}) => ({
  target,
  count,
  visible,
  inView: count,
  unchanged: count - visible,
  functionId: 7,
  written: count,
  ranBefore: undefined,
  firstMs: 0,
  lastMs: 1,
  writer: 'drawTide',
  ...about,
});
const SUMS: WindowSums = {
  startMs: 0,
  endMs: 1000,
  thread: 0,
  kinds: { totalMs: 1000, scriptOwnMs: 600, layoutMs: 150, unexplainedMs: 50, idleMs: 200 } as TimeBreakdown,
  functions: [
    {
      functionId: 3,
      name: 'bendingOf',
      place: 'src/desk/deck/trim.ts:24',
      owner: 'own',
      chargedMs: 400,
      line: { line: 26, share: 0.62 },
    },
  ],
  functionCount: 4,
  inputs: {
    count: 3,
    over: 1,
    budgetMs: 200,
    worst: { label: 'Tap button “Board all”', feltMs: 412, ref: 2 },
  },
  frames: { count: 40, late: 2, missed: 31, budgetMs: 16.7, longestMs: 512 },
  requests: { count: 2, failed: 1, bytes: 2048, longest: { url: '/api/crew', durationMs: 80 } },
  redraws: [redraws('element “Tide figure”', 70, 0), redraws('list “Crew”', 4, 4, { writer: 'fillCrew' })],
  memory: { firstBytes: 1_048_576, lastBytes: 2_097_152, collections: 2, collectedMs: 5 },
};

async function summed(component: typeof RangeSumsComponent | typeof RedrawTableComponent, inputs: object) {
  const questions: { readonly about: unknown[]; readonly answer: Subject<WindowSums> }[] = [];
  const recordings = {
    ask: (...about: unknown[]) => {
      const answer = new Subject<WindowSums>();
      questions.push({ about, answer });
      return answer;
    },
  };
  const one = await shown<RangeSumsComponent | RedrawTableComponent>(
    component,
    { range: { startMs: 0, endMs: 5000 }, recordingId: 'one', ...inputs },
    [
      { provide: RecordingService, useValue: recordings },
      { provide: LensService, useValue: { lens: () => WIDE_LENS } },
    ],
  );
  await one.set({ range: { startMs: 0, endMs: 1000 } });
  await vi.waitFor(() => expect(questions).toHaveLength(1));
  expect(questions[0]!.about).toEqual(['sums', { startMs: 0, endMs: 1000 }, 0]);
  questions[0]!.answer.next(SUMS);
  await vi.waitFor(async () => {
    await one.fixture.whenStable();
    expect(one.texts('tbody').join()).toContain('Tide figure');
  });
  return one;
}

describe('the sum of a range', () => {
  it('asks once the range is still, and tells each kind of work with its share', async () => {
    const { texts } = await summed(RangeSumsComponent, { heading: 'In view' });
    expect(texts('.what, h2')).toEqual(['In view', 'Sum of 1.00 s']);
    const kinds = texts('[aria-label="Kinds of work"] tr');
    expect(kinds).toEqual([
      'own script 600.0 ms 60 %',
      'layout 150.0 ms 15 %',
      'unexplained 50.0 ms 5 %',
      'idle, or off the main thread 200.0 ms 20 %',
    ]);
  });

  it('names functions with the line most of it was on, and their share of what was not idle', async () => {
    const { texts } = await summed(RangeSumsComponent, { heading: 'In view' });
    const [row] = texts('[aria-label="Functions by time"] tr');
    expect(row).toContain('bendingOf');
    expect(row).toContain('deck/trim.ts:24, 62 % on line 26');
    expect(row).toContain('400.0 ms');
    expect(row).toContain('50 %');
    expect(texts('p').join()).toContain('and 3 more');
  });

  it('holds inputs and frames against their budgets, and leads to the longest input', async () => {
    const { texts, fixture } = await summed(RangeSumsComponent, { heading: 'In view' });
    expect(texts('[data-sum="inputs"]')[0]).toContain('3, 1 over 200 ms');
    expect(texts('[data-sum="frames"]')[0]).toContain('40, 2 late, 31 missed');
    expect(texts('[data-sum="requests"]')[0]).toContain('2, 2 kB, 1 failed');
    const chosen: number[] = [];
    (fixture.componentInstance as RangeSumsComponent).chooseInput.subscribe((ref) => chosen.push(ref));
    const host = fixture.nativeElement as HTMLElement;
    host.querySelector<HTMLButtonElement>('dd button')!.click();
    expect(chosen).toEqual([2]);
  });
});

describe('redraws as a table', () => {
  it('sorts by each column in both ways', async () => {
    const { texts, fixture } = await summed(RedrawTableComponent, {});
    const elements = () => texts('tbody td:first-child');
    expect(elements()).toEqual(['element “Tide figure”', 'list “Crew”']);
    const host = fixture.nativeElement as HTMLElement;
    const head = (name: string) =>
      [...host.querySelectorAll<HTMLElement>('th')].find(({ textContent }) => textContent.trim() === name)!;
    head('times').click();
    await fixture.whenStable();
    expect(elements()).toEqual(['list “Crew”', 'element “Tide figure”']);
    head('change one sees').click();
    await fixture.whenStable();
    expect(elements()[0]).toBe('list “Crew”');
    head('written most by').click();
    await fixture.whenStable();
    expect(elements()[0]).toBe('element “Tide figure”');
    expect(texts('p')[0]).toContain('74 redraws of 2 elements');
  });
});
