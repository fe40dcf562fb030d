import { computed, inject, type Signal } from '@angular/core';
import type { TimeRange } from '@nettle-patch/core';
import type { WindowSums } from '../../workers/analysis/window-sums';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { answerTo } from '../shared/answer-to';
import { atRest } from '../shared/at-rest';

const AFTER_MOVES_MS = 200;

/** The sum of a range of the lens's thread; one that moves is summed when it rests. To be called where `inject` may be. */
export function sumsAtRest(range: Signal<TimeRange>): Signal<WindowSums | undefined> {
  const recordings = inject(RecordingService);
  const lens = inject(LensService);
  const asked = computed(() => ({ range: range(), thread: lens.lens().thread }));
  return answerTo(atRest(asked, AFTER_MOVES_MS), (about) =>
    recordings.ask('sums', about.range, about.thread),
  );
}
