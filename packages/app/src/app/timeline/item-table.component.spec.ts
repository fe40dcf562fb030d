import { MatSelectHarness } from '@angular/material/select/testing';
import { Subject } from 'rxjs';
import { describe, expect, it, vi } from 'vitest';
import type { ItemLine, ItemLines, LaneInfo } from '../../workers/analysis/queries/timeline-queries';
import { fakeTime } from '../../testing/fake-time';
import { shown } from '../../testing/shown';
import { RecordingService } from '../services/recording.service';
import { ItemTableComponent } from './item-table.component';

const lane = (id: string, title: string) => ({ id, title, kind: id, rows: 1 }) as unknown as LaneInfo;
const line = (ref: number, words: string): ItemLine => ({ ref, row: 0, startMs: 100, lengthMs: 40, words });

const lines = (...some: ItemLine[]): ItemLines => ({ lines: some, cut: 0 });
const LONGEST = { column: 'lengthMs', isDescending: true };

async function table() {
  const questions: { readonly about: unknown[]; readonly answer: Subject<ItemLines> }[] = [];
  const recordings = {
    ask: (...about: unknown[]) => {
      const answer = new Subject<ItemLines>();
      questions.push({ about, answer });
      return answer;
    },
  };
  const lanes = [lane('thread', 'Main thread'), lane('inputs', 'Inputs')];
  const one = await shown(ItemTableComponent, { lanes, shown: { startMs: 0, endMs: 2000 } }, [
    { provide: RecordingService, useValue: recordings },
  ]);
  const asked = (count: number) => vi.waitFor(() => expect(questions).toHaveLength(count));
  return { ...one, questions, asked };
}

describe('the table of things', () => {
  it('asks for the stretch that is shown, once it is still, and lists the answer', async () => {
    const pass = fakeTime();
    const { questions, set, texts, fixture } = await table();
    await set({ shown: { startMs: 0, endMs: 1000 } });
    pass(200);
    await set({ shown: { startMs: 0, endMs: 500 } });
    pass(200);
    expect(questions).toEqual([]);
    pass(100);
    expect(questions).toHaveLength(1);
    expect(questions[0]!.about).toEqual(['itemLines', 'thread', { startMs: 0, endMs: 500 }, LONGEST]);
    questions[0]!.answer.next(lines(line(1, 'onBoardAll'), line(2, 'drawTide')));
    await fixture.whenStable();
    expect(texts('tbody button')).toEqual(['onBoardAll', 'drawTide']);
  });

  it('shows the answer to the newest question, whenever that to an older one comes', async () => {
    const { questions, asked, set, texts, fixture } = await table();
    await asked(1);
    await set({ shown: { startMs: 500, endMs: 700 } });
    await asked(2);
    questions[1]!.answer.next(lines(line(2, 'drawTide')));
    questions[0]!.answer.next(lines(line(1, 'onBoardAll')));
    await fixture.whenStable();
    expect(texts('tbody button')).toEqual(['drawTide']);
  });

  it('lists nothing of the lane before once another is chosen, and takes a thing as one of its lane', async () => {
    const { component, element, questions, asked, fixture, loader, texts } = await table();
    const chosen: unknown[] = [];
    component.choose.subscribe((one) => chosen.push(one));
    await asked(1);
    questions[0]!.answer.next(lines(line(7, 'onBoardAll')));
    await fixture.whenStable();
    const lane = await loader.getHarness(MatSelectHarness);
    await lane.open();
    await lane.clickOptions({ text: 'Inputs' });
    expect(texts('tbody button')).toEqual([]);
    await asked(2);
    questions[1]!.answer.next(lines(line(2, 'Board all')));
    await fixture.whenStable();
    element.querySelector<HTMLButtonElement>('tbody button')!.click();
    expect(chosen).toEqual([{ lane: 'inputs', ref: 2 }]);
  });

  it('asks for another order, in which the lines are put before they are cut, and says what is left out', async () => {
    const { element, questions, asked, fixture, texts } = await table();
    await asked(1);
    element.querySelector<HTMLElement>('th[mat-sort-header="words"]')!.click();
    await asked(2);
    expect(questions[1]!.about.at(-1)).toEqual({ column: 'words', isDescending: false });
    questions[1]!.answer.next({ lines: [line(1, 'drawTide')], cut: 1200 });
    await fixture.whenStable();
    expect(texts('.head .soft')[0]).toContain('1 thing from 0.00 s to 2.00 s; 1,200 more follow');
  });
});
