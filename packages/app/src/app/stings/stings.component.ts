import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import type { TimeRange } from '@nettle-patch/core';
import type { OpenedSting } from '../../workers/opened';
import { GroundStripComponent } from '../ground-strip/ground-strip.component';
import { RecordingService } from '../services/recording.service';
import { OpeningComponent } from '../shared/opening.component';
import { NoticesComponent } from './notices.component';
import { StingCaseComponent } from './sting-case.component';
import { calmWords } from './calm-words';
import { StingListComponent } from './sting-list.component';

/** The ranked list of stings, and the selected one explained. */
@Component({
  selector: 'np-stings',
  imports: [
    MatButtonModule,
    GroundStripComponent,
    OpeningComponent,
    NoticesComponent,
    StingCaseComponent,
    StingListComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'keyDown($event)' },
  templateUrl: './stings.component.html',
  styleUrl: './stings.component.scss',
})
export class StingsComponent {
  readonly #recordings = inject(RecordingService);
  readonly #router = inject(Router);
  /** Id of the recording, from the address. */
  readonly id = input.required<string>();
  /** Index of the sting that is shown, from the address. */
  readonly sting = input<string>();
  /** The range that stings are shown from, from the address. Milliseconds. */
  readonly from = input<string>();
  readonly to = input<string>();

  protected readonly open = this.#recordings.open;
  protected readonly shown = signal<OpenedSting | undefined>(undefined);

  protected readonly opened = computed(() => {
    const open = this.open();
    return open.state === 'open' && open.opened.id === this.id() ? open.opened : undefined;
  });

  protected readonly range = computed<TimeRange | undefined>(() => {
    const [startMs, endMs] = [Number(this.from()), Number(this.to())];
    return endMs > startMs ? { startMs, endMs } : undefined;
  });

  /** The series with a sting in the range, each with those of its stings that are in it. */
  protected readonly series = computed(() => {
    const opened = this.opened();
    if (opened === undefined) return [];
    const range = this.range();
    const inRange = (index: number) => {
      const { startMs, endMs } = opened.stings[index]!;
      return range === undefined || (startMs < range.endMs && endMs > range.startMs);
    };
    const kept = opened.series.map((series) => ({ ...series, stings: series.stings.filter(inRange) }));
    return kept.filter(({ stings }) => stings.length > 0);
  });

  protected readonly selected = computed(() => {
    const asked = Number(this.sting() ?? Number.NaN);
    const shown = this.series().flatMap(({ stings }) => stings);
    return shown.includes(asked) ? asked : shown[0];
  });

  protected readonly selectedSting = computed(() => {
    const selected = this.selected();
    return selected === undefined ? undefined : this.opened()?.stings[selected];
  });

  /** What it means that there is nothing to list: never more than the browser was able to tell. */
  protected readonly calmWords = computed(() => calmWords(this.opened()!, this.range() !== undefined));

  constructor() {
    effect(() => void this.#recordings.openKept(this.id()));
    effect(() => void this.#load(this.opened() === undefined ? undefined : this.selected()));
  }

  protected select(sting: number): void {
    void this.#navigate({ sting });
  }

  protected setRange(range: TimeRange | undefined): void {
    const from = range && Math.round(range.startMs);
    const to = range && Math.round(range.endMs);
    void this.#navigate({ from: from ?? null, to: to ?? null });
  }

  protected keyDown(event: KeyboardEvent): void {
    const step = event.key === 'j' ? 1 : event.key === 'k' ? -1 : 0;
    const typing = event.target instanceof HTMLElement && event.target.matches('input, textarea');
    if (step === 0 || typing || event.ctrlKey || event.metaKey || event.altKey) return;
    const firsts = this.series().map(({ stings }) => stings[0]!);
    const at = this.series().findIndex(({ stings }) => stings.includes(this.selected() ?? -1));
    const next = firsts[at + step];
    if (next !== undefined) this.select(next);
  }

  #navigate(queryParams: Record<string, number | null>): Promise<boolean> {
    return this.#router.navigate([], { queryParams, queryParamsHandling: 'merge' });
  }

  async #load(index: number | undefined): Promise<void> {
    const shown = index === undefined ? undefined : await this.#recordings.sting(index);
    if (this.selected() === index) this.shown.set(shown);
  }
}
