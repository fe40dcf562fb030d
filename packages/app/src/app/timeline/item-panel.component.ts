import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { countText, msText, shortPlace, type TimeRange, secondsText, durationText } from '@nettle-patch/core';
import type { ItemDetails } from '../../workers/analysis/item-details-types';
import { LensService } from '../services/lens.service';
import { QuietRangesComponent } from '../sums/quiet-ranges.component';
import { RangeSumsComponent } from '../sums/range-sums.component';

const MAX_CALLERS = 8;

/** Everything known of what is selected in the time view; with nothing selected, the sum of a range. */
@Component({
  selector: 'np-item-panel',
  imports: [MatButtonModule, QuietRangesComponent, RangeSumsComponent, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './item-panel.component.html',
  styleUrl: './item-panel.component.scss',
})
export class ItemPanelComponent {
  readonly details = input.required<ItemDetails | undefined>();
  readonly recordingId = input.required<string>();
  /** What is summed while nothing is selected, and what it is. */
  readonly range = input.required<TimeRange>();
  readonly heading = input.required<string>();
  /** Nothing is to be selected any more. */
  readonly letGo = output();
  readonly chooseInput = output<number>();
  readonly showRedraws = output();
  /** A stretch to be shown. */
  readonly show = output<TimeRange>();
  /** A moment to go to. */
  readonly goTo = output<number>();

  protected readonly lens = inject(LensService);
  protected readonly ms = msText;
  protected readonly seconds = secondsText;
  protected readonly count = countText;
  protected readonly short = shortPlace;
  protected readonly duration = durationText;
  protected readonly callers = computed(() => this.details()?.callers.slice(0, MAX_CALLERS) ?? []);
  protected readonly more = computed(() => (this.details()?.callers.length ?? 0) - this.callers().length);
  protected readonly at = computed(() => {
    const { startMs } = this.details()!;
    return `at ${secondsText(startMs, 3)}`;
  });
}
