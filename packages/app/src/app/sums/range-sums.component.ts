import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import {
  BREAKDOWN_PARTS,
  bytesText,
  countText,
  durationText,
  msText,
  originalPath,
  percentText,
  shortPlace,
  type TimeRange,
} from '@nettle-patch/core';
import { debounceTime } from 'rxjs';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { answerTo } from '../shared/answer-to';
import { scheduleTask } from '../shared/schedule-task';
import { PartSwatchComponent } from '../shared/part-swatch.component';
import { partWords } from '../shared/words';

/** A range that moves is summed when it rests. */
const AFTER_MOVES_MS = 200;
const MAX_REDRAWS = 6;
const PARTS = 3;

/** What goes on in a range, summed: kinds of work, functions, inputs and frames against their budgets, and the rest. */
@Component({
  selector: 'np-range-sums',
  imports: [MatButtonModule, PartSwatchComponent, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './range-sums.component.html',
  styleUrl: './range-sums.component.scss',
})
export class RangeSumsComponent {
  readonly range = input.required<TimeRange>();
  /** What the range is: "In view". */
  readonly heading = input.required<string>();
  readonly recordingId = input.required<string>();
  /** An input to be shown, by its number among the inputs. */
  readonly chooseInput = output<number>();
  /** All redraws are to be shown. */
  readonly showRedraws = output();

  readonly #recordings = inject(RecordingService);
  readonly #lens = inject(LensService);
  readonly #asked = toSignal(
    toObservable(computed(() => ({ range: this.range(), thread: this.#lens.lens().thread }))).pipe(
      debounceTime(AFTER_MOVES_MS),
    ),
  );
  protected readonly sums = answerTo(this.#asked, ({ range, thread }) =>
    this.#recordings.ask('sums', range, thread),
  );
  /** Parts of the sum that are there: one more after each picture, once, so that building them holds up no input. */
  protected readonly parts = signal(1);
  protected readonly length = computed(() => {
    const { startMs, endMs } = this.range();
    return durationText(endMs - startMs);
  });
  protected readonly kinds = computed(() => {
    const { kinds } = this.sums()!;
    return BREAKDOWN_PARTS.filter((part) => kinds[part] >= 0.05).map((part) => ({
      part,
      name: partWords(part),
      ms: kinds[part],
      share: kinds[part] / kinds.totalMs,
    }));
  });
  protected readonly functions = computed(() => {
    const { functions, kinds } = this.sums()!;
    return functions.map((one) => ({
      ...one,
      short: shortPlace(one.place),
      share: one.chargedMs / (kinds.totalMs - kinds.idleMs),
    }));
  });
  protected readonly redraws = computed(() => this.sums()!.redraws.slice(0, MAX_REDRAWS));
  protected readonly memory = computed(() => {
    const { firstBytes, lastBytes, collections, collectedMs } = this.sums()!.memory;
    const used =
      firstBytes === undefined || lastBytes === undefined
        ? undefined
        : firstBytes === lastBytes
          ? bytesText(lastBytes)
          : `${bytesText(firstBytes)} to ${bytesText(lastBytes)}`;
    const stood = collectedMs > 0 ? `, ${msText(collectedMs)}` : '';
    const collected =
      collections === 0
        ? undefined
        : `${countText(collections)} ${collections === 1 ? 'collection' : 'collections'}${stood}`;
    return { used, collected };
  });

  constructor() {
    effect(() => {
      const parts = this.parts();
      if (this.sums() !== undefined && parts < PARTS) scheduleTask(() => this.parts.set(parts + 1));
    });
  }

  protected readonly count = countText;
  protected readonly ms = msText;
  protected readonly percent = percentText;
  protected readonly bytes = bytesText;
  protected readonly path = originalPath;
}
