import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { countText, countedText, msText, secondsText, type TimeRange } from '@nettle-patch/core';
import type { ShownQuiet } from '../../workers/analysis/quiet-ranges';
import { RecordingService } from '../services/recording.service';
import { ShelfService } from '../services/shelf.service';
import { answerTo } from '../shared/answer-to';
import { IconComponent } from '../shared/icon.component';

const same = (a: TimeRange, b: TimeRange) => a.startMs === b.startMs && a.endMs === b.endMs;

/** Ranges in which nothing should change, with what happened in them all the same; and the one that is marked next. */
@Component({
  selector: 'np-quiet-ranges',
  imports: [MatButtonModule, RouterLink, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Nothing should change</h3>
    @for (one of quiet(); track one.startMs + ' ' + one.endMs) {
      <section [attr.aria-label]="'Quiet from ' + words(one)">
        <p class="head">
          <button type="button" class="link" (click)="show.emit(one)">
            {{ one.name ?? words(one) }}
          </button>
          @if (one.isMarked) {
            <button
              type="button"
              mat-icon-button
              [attr.aria-label]="'Remove the mark: ' + words(one)"
              (click)="unmark(one)"
            >
              <np-icon name="close" />
            </button>
          }
        </p>
        <dl>
          <dt>redraws</dt>
          <dd [class.over]="one.redraws > 0">
            {{ count(one.redraws) }}{{ one.redraws > 0 ? ', ' + count(one.visible) + ' one could see' : '' }}
          </dd>
          @for (element of one.elements; track $index) {
            <dt></dt>
            <dd>{{ element.target ?? 'not told' }}, {{ times(element.count) }}</dd>
          }
          <dt>script</dt>
          <dd [class.over]="one.scriptMs >= 1">{{ ms(one.scriptMs) }}</dd>
          @for (by of one.functions; track by.functionId) {
            <dt></dt>
            <dd>
              <a
                class="link"
                [routerLink]="['/calls', recordingId()]"
                [queryParams]="{ function: by.functionId, show: 'flat' }"
                queryParamsHandling="merge"
                [textContent]="by.name"
              ></a>
              {{ ms(by.ms) }}
            </dd>
          }
          <dt>rendering</dt>
          <dd [class.over]="one.renderingMs >= 1">{{ ms(one.renderingMs) }}</dd>
          <dt>requests</dt>
          <dd [class.over]="one.requests > 0">{{ count(one.requests) }}</dd>
        </dl>
      </section>
    } @empty {
      <p class="soft">
        Mark a range in which the app should be at rest: what happens in it all the same is listed here, and a
        budget can hold it.
      </p>
    }
    <button
      type="button"
      mat-stroked-button
      [disabled]="range() === undefined || isMarked()"
      [title]="range() === undefined ? 'Draw a range on the strip first' : ''"
      (click)="mark()"
    >
      Mark the range as quiet
    </button>
  `,
  styleUrl: './range-sums.component.scss',
  styles: `
    .head {
      display: flex;
      align-items: center;
      justify-content: space-between;
    }
  `,
})
export class QuietRangesComponent {
  readonly #shelf = inject(ShelfService);
  readonly #recordings = inject(RecordingService);
  readonly recordingId = input.required<string>();
  /** The range of the lens, which may be marked. */
  readonly range = input<TimeRange>();
  readonly show = output<TimeRange>();

  readonly #marked = computed((): readonly TimeRange[] => {
    const kept = this.#shelf.recordings()?.find(({ id }) => id === this.recordingId());
    return kept?.quiet ?? this.#recordings.opened()?.header.quiet ?? [];
  });
  readonly #found = answerTo(
    computed(() => (this.#recordings.opened()?.id === this.recordingId() ? this.#marked() : undefined)),
    (marked) => this.#recordings.ask('quiet', marked),
  );
  protected readonly quiet = computed((): readonly ShownQuiet[] => this.#found() ?? []);
  protected readonly isMarked = computed(() => this.#marked().some((one) => same(one, this.range()!)));

  protected mark(): void {
    const { startMs, endMs } = this.range()!;
    this.#keep([...this.#marked(), { startMs, endMs }]);
  }

  protected unmark(range: TimeRange): void {
    this.#keep(this.#marked().filter((one) => !same(one, range)));
  }

  #keep(quiet: readonly TimeRange[]): void {
    void this.#shelf.setQuiet(this.recordingId(), quiet);
  }

  protected readonly count = countText;
  protected readonly ms = msText;
  protected readonly times = (count: number) => countedText(count, 'time');
  protected readonly words = ({ startMs, endMs }: TimeRange) =>
    `${secondsText(startMs)} to ${secondsText(endMs)}`;
}
