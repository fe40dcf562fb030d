import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import type { TimeRange } from '@nettle-patch/core';
import { AddressService } from '../services/address.service';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { StingChoiceService } from '../services/sting-choice.service';
import { ShortcutsService } from '../services/shortcuts.service';
import { PaneDividerComponent } from '../panes/pane-divider.component';
import { PanesDirective } from '../panes/panes.directive';
import { OpeningComponent } from '../shell/opening.component';
import { emptyState } from './empty-state';
import { StingCaseComponent } from './sting-case.component';
import { StingListComponent } from './sting-list.component';
import { answerTo } from '../shared/answer-to';

/** The ranked list of stings, and the selected one explained. */
@Component({
  selector: 'np-stings',
  imports: [OpeningComponent, PaneDividerComponent, PanesDirective, StingCaseComponent, StingListComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'keyDown($event)' },
  templateUrl: './stings.component.html',
  styleUrl: './stings.component.scss',
})
export class StingsComponent {
  readonly #recordings = inject(RecordingService);
  readonly #address = inject(AddressService);
  readonly #shortcuts = inject(ShortcutsService);
  readonly #lens = inject(LensService);
  protected readonly choice = inject(StingChoiceService);
  readonly id = input.required<string>();

  protected readonly opened = this.#recordings.openedAs(this.id);
  protected readonly shown = answerTo(
    computed(() => {
      const [opened, index] = [this.opened(), this.choice.selected()];
      return opened === undefined || index === undefined ? undefined : { opened, index };
    }),
    ({ index }) => this.#recordings.ask('sting', index),
  );
  /** Whether the lens hides some. */
  protected readonly limited = computed(
    () => this.choice.underLens().length < (this.opened()?.series.length ?? 0),
  );

  /** What it means that there is nothing to list: never more than the browser was able to tell. */
  protected readonly emptyState = computed(() => emptyState(this.opened()!, this.limited()));

  constructor() {
    effect(() => void this.#recordings.openStored(this.id()));
  }

  protected showAll(): void {
    this.choice.setKinds([]);
    this.#lens.change({ range: undefined, minMs: 0, text: '', thread: 0, focus: [] });
  }

  protected setRange(range: TimeRange): void {
    this.#lens.change({ range });
  }

  protected keyDown(event: KeyboardEvent): void {
    const step = event.key === 'j' ? 1 : event.key === 'k' ? -1 : 0;
    const onControl = event.target instanceof HTMLElement && event.target.matches('button, a, summary');
    if (!this.#shortcuts.mayAct(event)) return;
    const selected = this.choice.selected();
    if (event.key === 'Enter' && !onControl && selected !== undefined) {
      void this.#address.go('timeline', this.id(), { sting: selected });
    }
    if (step === 0) return;
    const series = this.choice.series();
    const at = series.findIndex(({ stings }) => stings.includes(selected ?? -1));
    const next = series[at + step]?.stings[0];
    if (next !== undefined) this.choice.choose(next);
  }
}
