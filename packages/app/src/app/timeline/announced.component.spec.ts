import { InputModalityDetector, LiveAnnouncer } from '@angular/cdk/a11y';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { TimeRange } from '@nettle-patch/core';
import { describe, expect, it, vi } from 'vitest';
import type { ListedSting } from '../../workers/analysis/analysis-results';
import type { ItemDetails } from '../../workers/analysis/item-details-types';
import { announceTimeline } from './announce-timeline';

function announced() {
  const told: string[] = [];
  const modality = { mostRecentModality: 'keyboard' };
  TestBed.configureTestingModule({
    providers: [
      { provide: LiveAnnouncer, useValue: { announce: (words: string) => told.push(words) } },
      { provide: InputModalityDetector, useValue: modality },
    ],
  });
  const details = signal<ItemDetails | undefined>(undefined);
  const sting = signal<ListedSting | undefined>(undefined);
  const shown = signal<TimeRange>({ startMs: 0, endMs: 9000 });
  TestBed.runInInjectionContext(() => announceTimeline({ details, sting, shown }));
  TestBed.tick();
  return { told, modality, details, sting, shown };
}

const called = (title: string) =>
  ({ title, facts: [{ label: 'length', text: '40 ms' }] }) as unknown as ItemDetails;
const tap = (label: string, feltMs: number) =>
  ({ label, feltMs, budgetMs: 200, isRate: false }) as unknown as ListedSting;

describe('what is told of the Timeline', () => {
  it('is what a key selected, and nothing of what a pointer did', () => {
    const { told, modality, details, sting } = announced();
    details.set(called('foldAccents'));
    sting.set(tap('Tap button “Board all”', 412));
    TestBed.tick();
    sting.set(tap('Search manifest', 240));
    TestBed.tick();
    modality.mostRecentModality = 'mouse';
    details.set(called('trim'));
    TestBed.tick();
    expect(told).toEqual(['foldAccents, length 40 ms', 'Search manifest, 240 ms, budget 200 ms']);
  });

  it('is the window once it has come to rest', async () => {
    vi.useFakeTimers();
    try {
      const { told, shown } = announced();
      await vi.advanceTimersByTimeAsync(500);
      TestBed.tick();
      for (const startMs of [100, 200, 300]) {
        shown.set({ startMs, endMs: 3000 + startMs });
        TestBed.tick();
        await vi.advanceTimersByTimeAsync(100);
      }
      await vi.advanceTimersByTimeAsync(500);
      TestBed.tick();
      expect(told).toEqual(['In view: 0.30 s to 3.30 s']);
    } finally {
      vi.useRealTimers();
    }
  });
});
