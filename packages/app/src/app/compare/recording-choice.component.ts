import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { ShelfService } from '../services/shelf.service';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';
import { formatDate } from '../shared/format';

/** Chooses one of the recordings of the shelf. */
@Component({
  selector: 'np-recording-choice',
  imports: [ChoiceComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <np-choice
      placeholder="Choose a recording"
      [title]="title()"
      [label]="label()"
      [options]="options()"
      [value]="chosen()"
      (choose)="choose.emit($event)"
    />
  `,
  styles: `
    np-choice {
      font-weight: 700;
      --choice-width: clamp(230px, 21vw, 440px);
    }
  `,
})
export class RecordingChoiceComponent {
  readonly #shelf = inject(ShelfService);
  protected readonly options = computed((): readonly ChoiceOption<string>[] =>
    (this.#shelf.recordings() ?? []).map(({ id, title, createdAt }) => ({
      value: id,
      words: `${title}, ${formatDate(createdAt)}`,
    })),
  );
  /** Word beside it. */
  readonly title = input.required<string>();
  /** What is chosen, for those who cannot see the word beside it. */
  readonly label = input.required<string>();
  /** Id of the recording that is chosen. */
  readonly chosen = input<string>();
  readonly choose = output<string>();
}
