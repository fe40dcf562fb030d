import { MatButtonHarness } from '@angular/material/button/testing';
import { TestBed } from '@angular/core/testing';
import { describe, expect, it, vi } from 'vitest';
import { shown } from '../../testing/shown';
import { NEW_ANALYSIS_THREAD } from '../services/analysis-thread';
import { FailureService } from '../services/failure.service';
import { FilesService } from '../services/files.service';
import { RecordingService } from '../services/recording.service';
import { ReadingComponent } from './reading.component';

/** What reads files, in threads whose answers are given by hand. */
async function reading() {
  const threads: { end: () => void; answer: (id: string) => void; die: (words: string) => void }[] = [];
  const recordings = { cancel: vi.fn<() => void>() };
  const told: unknown[] = [];
  const one = await shown(ReadingComponent, {}, [
    { provide: RecordingService, useValue: recordings },
    {
      provide: FailureService,
      useValue: {
        tell: (failure: unknown) => told.push(failure),
        valueOf: (outcome: { value: unknown }) => outcome.value,
      },
    },
    {
      provide: NEW_ANALYSIS_THREAD,
      useValue: (die: (words: string) => void) => {
        let answer: (id: string) => void = () => undefined;
        const outcome = new Promise((resolve) => (answer = (value) => resolve({ value })));
        const thread = { end: vi.fn<() => void>(), answer: (id: string) => answer(id), die };
        threads.push(thread);
        return { end: thread.end, remote: { importFile: () => outcome } };
      },
    },
  ]);
  const files = TestBed.inject(FilesService);
  return { ...one, threads, recordings, told, files };
}

describe('the reading of a file', () => {
  it('is cancelled without ending what is open', async () => {
    const { fixture, loader, files, threads, recordings, texts } = await reading();
    void files.importFile(new Blob(['{}']));
    await fixture.whenStable();
    expect(texts('[role=status]')[0]).toContain('Reading the file…');
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Cancel' }))).click();
    expect(threads[0]!.end).toHaveBeenCalledOnce();
    expect(recordings.cancel).not.toHaveBeenCalled();
    expect(texts('[role=status]')).toEqual([]);
  });

  it('leaves no thread behind, and gives what was read', async () => {
    const { files, threads } = await reading();
    const id = files.importFile(new Blob(['{}']));
    threads[0]!.answer('friday');
    expect(await id).toBe('friday');
    expect(threads[0]!.end).toHaveBeenCalledOnce();
    expect(files.importing()).toBeUndefined();
  });

  it('is told of where its thread ends by itself', async () => {
    const { files, threads, told } = await reading();
    void files.importFile(new Blob(['{}']));
    threads[0]!.die('out of memory');
    expect(told).toEqual([{ code: 'analysis-ended', detail: 'out of memory' }]);
    expect(files.importing()).toBeUndefined();
  });
});
