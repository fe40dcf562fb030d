import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';

/** One of what can be chosen. */
export interface ChoiceOption<T> {
  readonly value: T;
  readonly words: string;
}

/** Chooses one of a list, in a line of tools: the word for it stands beside the field. Its width is `--choice-width`. */
@Component({
  selector: 'np-choice',
  imports: [MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (title(); as title) {
      <span class="title" aria-hidden="true">{{ title }}</span>
    }
    <mat-form-field class="compact">
      <mat-select
        panelWidth=""
        [aria-label]="label()"
        [placeholder]="placeholder()"
        [value]="value()"
        (selectionChange)="choose.emit($event.value)"
      >
        @for (option of options(); track option.value) {
          <mat-option [value]="option.value">{{ option.words }}</mat-option>
        }
      </mat-select>
    </mat-form-field>
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 8px;
      white-space: nowrap;
    }
    mat-form-field {
      width: var(--choice-width, 160px);
    }
  `,
})
export class ChoiceComponent<T> {
  /** What is chosen, for those who cannot see the title. */
  readonly label = input.required<string>();
  /** Word beside the field; none where the place says it. */
  readonly title = input('');
  readonly options = input.required<readonly ChoiceOption<T>[]>();
  readonly value = input<T>();
  /** What stands in the field while nothing is chosen. */
  readonly placeholder = input('');
  readonly choose = output<T>();
}
