import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { STING_KINDS, countText, countedText, kindLabel, type StingKind } from '@nettle-patch/core';
import type { ListedSeries, ListedSting, OpenedRecording } from '../../workers/analysis/analysis-results';
import { LensService } from '../services/lens.service';
import { incrementalRender } from '../shared/incremental-render';
import { listGroups, stingCount } from './listed-rows';

/** More than are seen without scrolling: the others come a moment later. */
const FIRST = 12;

/** The stings in order of rank, repeats of the same as one row, delays apart from costs that go on. */
@Component({
  selector: 'np-sting-list',
  imports: [MatButtonModule, MatChipsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sting-list.component.html',
  styleUrl: './sting-list.component.scss',
})
export class StingListComponent {
  readonly #slower = inject(LensService).slower;
  readonly series = input.required<readonly ListedSeries[]>();
  readonly stings = input.required<readonly ListedSting[]>();
  readonly threads = input.required<OpenedRecording['threads']>();
  readonly selected = input<number>();
  /** The series of all kinds, and the kinds that are shown; none means all. */
  readonly all = input.required<readonly ListedSeries[]>();
  readonly kinds = input.required<readonly StingKind[]>();
  readonly kindsChange = output<readonly StingKind[]>();
  readonly choose = output<number>();
  readonly showAll = output();

  readonly #built = incrementalRender(1);
  protected readonly groups = computed(() => {
    const series = this.#built() === 0 ? this.series().slice(0, FIRST) : this.series();
    return listGroups({ series, stings: this.stings(), slower: this.#slower(), threads: this.threads() });
  });
  readonly #count = computed(() => stingCount(this.series()));
  /** Whether the lens or the chosen kinds hide some. */
  protected readonly isLimited = computed(() => this.#count() < this.stings().length);
  /** How many of all are listed, counted as the verdict counts them. */
  protected readonly heading = computed(() => {
    const all = countedText(this.stings().length, 'sting');
    return this.isLimited() ? `${countText(this.#count())} of ${all}` : all;
  });

  /** The kinds there are, each with how many stings it has. */
  protected readonly filters = computed(() =>
    STING_KINDS.map((kind) => ({
      kind,
      words: kindLabel(kind),
      count: stingCount(this.all().filter(({ stings: [first] }) => this.stings()[first!]!.kind === kind)),
    })).filter(({ count }) => count > 0),
  );

  protected readonly hasOutcomes = computed(() => this.stings().some(({ kind }) => kind === 'slow-outcome'));

  protected isOn(stings: readonly number[]): boolean {
    return stings.includes(this.selected() ?? -1);
  }
}
