import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { ShelfService } from '../services/shelf.service';
import { formatDate } from '../shared/format';

/** Chooses one of the recordings of the shelf. */
@Component({
  selector: 'np-recording-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label>
      <span>{{ title() }}</span>
      <select [attr.aria-label]="label()" [value]="chosen() ?? ''" (change)="choose.emit(list.value)" #list>
        <option value="">Choose a recording</option>
        @for (recording of shelf.recordings(); track recording.id) {
          <option [value]="recording.id" [selected]="recording.id === chosen()">
            {{ recording.title }}, {{ date(recording.createdAt) }}
          </option>
        }
      </select>
    </label>
  `,
  styles: `
    label {
      display: flex;
      align-items: center;
      gap: 8px;
      font-weight: 700;
    }
    select {
      width: 250px;
      font: 14px var(--text);
      padding: 5px 6px;
      border: 1px solid var(--edge);
      border-radius: 5px;
      background: var(--panel);
      color: var(--ink);
    }
  `,
})
export class RecordingChoiceComponent {
  protected readonly shelf = inject(ShelfService);
  protected readonly date = formatDate;
  /** Word beside it. */
  readonly title = input.required<string>();
  /** What is chosen, for those who cannot see the word beside it. */
  readonly label = input.required<string>();
  /** Id of the recording that is chosen. */
  readonly chosen = input<string>();
  readonly choose = output<string>();
}
