import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { STING_KINDS, kindLabel, lengthOnSlower, type StingKind, durationText } from '@nettle-patch/core';
import type { ListedSeries, ListedSting } from '../../workers/analysis/analysis-results';
import { LensService } from '../services/lens.service';
import { incrementalRender } from '../shared/incremental-render';
import { feltUnit } from '../shared/words';

interface ListRow {
  readonly sting: number;
  readonly label: string;
  readonly how: string;
  readonly felt: string;
  readonly budget: string;
  readonly on: boolean;
  /** Each with its share of the widest bar, in percent. */
  readonly parts: readonly { readonly name: string; readonly width: number }[];
  readonly budgetAt: number;
}

/** More than are seen without scrolling: the others come a moment later. */
const FIRST = 12;

/** The stings in order of how long somebody waited, repeats of the same as one row. */
@Component({
  selector: 'np-sting-list',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sting-list.component.html',
  styleUrl: './sting-list.component.scss',
})
export class StingListComponent {
  readonly #slower = inject(LensService).slower;
  readonly series = input.required<readonly ListedSeries[]>();
  readonly stings = input.required<readonly ListedSting[]>();
  readonly selected = input<number>();
  /** Whether a range hides some. */
  readonly limited = input(false);
  /** The series of all kinds, and the kinds that are shown; none means all. */
  readonly all = input.required<readonly ListedSeries[]>();
  readonly kinds = input.required<readonly StingKind[]>();
  readonly kindsChange = output<readonly StingKind[]>();
  readonly choose = output<number>();
  readonly showAll = output();

  /** The longest delay listed: all bars share one scale. */
  readonly #longestMs = computed(() =>
    Math.max(1, ...this.series().map(({ stings }) => this.#felt(this.stings()[stings[0]!]!))),
  );

  readonly #built = incrementalRender(1);
  protected readonly rows = computed(() => {
    const series = this.#built() === 0 ? this.series().slice(0, FIRST) : this.series();
    return series.map((one) => this.#row(one));
  });

  /** The kinds there are, each with how many series it has. */
  protected readonly filters = computed(() =>
    STING_KINDS.map((kind) => ({
      kind,
      words: kindLabel(kind),
      count: this.all().filter(({ stings: [first] }) => this.stings()[first!]!.kind === kind).length,
      on: this.kinds().includes(kind),
    })).filter(({ count }) => count > 0),
  );

  protected readonly hasOutcomes = computed(() => this.stings().some(({ kind }) => kind === 'slow-outcome'));

  protected toggle(kind: StingKind): void {
    const kinds = this.kinds();
    this.kindsChange.emit(kinds.includes(kind) ? kinds.filter((one) => one !== kind) : [...kinds, kind]);
  }

  /** The delay, as the lens has it. Lengths that are no delay stay as they are. */
  #felt({ feltMs, idleMs, detail }: ListedSting): number {
    return detail === undefined ? lengthOnSlower(feltMs, idleMs, this.#slower()) : feltMs;
  }

  #row(series: ListedSeries): ListRow {
    const worst = this.stings()[series.stings[0]!]!;
    const feltMs = this.#felt(worst);
    const percent = (ms: number) => (ms / this.#longestMs()) * 100;
    const part = (ms: number) => percent((ms / worst.feltMs) * feltMs);
    return {
      sting: series.stings[0]!,
      label: series.label,
      how: [...new Set([worst.kind, ...worst.also])].map(kindLabel).concat(timesWords(series)).join(' · '),
      felt: `${feltMs === worst.feltMs ? '' : '≈ '}${durationText(feltMs)}`,
      budget: `budget ${Math.round(worst.budgetMs)}${feltUnit(worst)}`,
      on: series.stings.includes(this.selected() ?? -1),
      parts: worst.parts.map(({ name, ms }) => ({ name, width: part(ms) })),
      budgetAt: percent(worst.budgetMs),
    };
  }
}

function timesWords({ stings, attempts }: ListedSeries): string[] {
  if (attempts !== undefined && attempts > stings.length) return [`${stings.length} of ${attempts} times`];
  return stings.length > 1 ? [`${stings.length} times`] : [];
}
