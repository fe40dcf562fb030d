import { Injectable, computed, inject, linkedSignal } from '@angular/core';
import type { TimeRange } from '@nettle-patch/core';
import { RecordingService } from './recording.service';

const NOTHING: TimeRange = { startMs: 0, endMs: 1 };

/** The stretch of time that the Timeline shows of the open recording. It stays while other views are looked at. */
@Injectable({ providedIn: 'root' })
export class TimeWindowService {
  readonly #opened = inject(RecordingService).opened;
  readonly shown = linkedSignal<TimeRange>(() => this.#opened()?.range ?? NOTHING);
  /** Whether it is all of the recording. */
  readonly isWhole = computed(() => {
    const whole = this.#opened()?.range;
    const { startMs, endMs } = this.shown();
    return whole === undefined || (startMs <= whole.startMs && endMs >= whole.endMs);
  });
}
