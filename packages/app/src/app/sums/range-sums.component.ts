import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import {
  bytesText,
  countText,
  countedText,
  durationText,
  msText,
  originalPath,
  percentText,
  shortPlace,
  type TimeRange,
} from '@nettle-patch/core';
import { scheduleTask } from '../shared/schedule-task';
import { PartSwatchComponent } from '../shared/part-swatch.component';
import { shownParts } from '../shared/words';
import { sumsAtRest } from './sums-at-rest';

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

  protected readonly sums = sumsAtRest(this.range);
  /** Parts of the sum that are there: one more after each picture, once, so that building them holds up no input. */
  protected readonly parts = signal(1);
  protected readonly length = computed(() => {
    const { startMs, endMs } = this.range();
    return durationText(endMs - startMs);
  });
  protected readonly kinds = computed(() => {
    const { kinds } = this.sums()!;
    return shownParts(kinds).map((kind) => ({ ...kind, share: kind.ms / kinds.totalMs }));
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
    const collected = collections === 0 ? undefined : `${countedText(collections, 'collection')}${stood}`;
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
