import {
  CdkDrag,
  CdkDragHandle,
  CdkDropList,
  moveItemInArray,
  type CdkDragDrop,
} from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, model, signal } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { BadStepsError, readSteps, stepWords, type Step } from '@nettle-patch/core';
import { FocusNowDirective } from '../shared/focus-now.directive';
import { IconComponent } from '../shared/icon.component';

/** Steps in their order: each can be moved by its handle, changed in place, and left out. */
@Component({
  selector: 'np-step-list',
  imports: [
    CdkDrag,
    CdkDragHandle,
    CdkDropList,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    ReactiveFormsModule,
    FocusNowDirective,
    IconComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol tabindex="0" aria-label="Steps" cdkDropList (cdkDropListDropped)="dropped($event)">
      @for (step of words(); track $index) {
        <li cdkDrag cdkDragLockAxis="y">
          <button
            type="button"
            cdkDragHandle
            class="handle"
            [attr.aria-label]="'Move step ' + ($index + 1) + ', with the arrow keys or by a drag'"
            (keydown)="keyDown($event, $index)"
          >
            <np-icon name="lanes" />
          </button>
          @if (editing() === $index) {
            <mat-form-field class="compact">
              <input
                matInput
                npFocusNow
                class="figure"
                [attr.aria-label]="'Step ' + ($index + 1)"
                spellcheck="false"
                [formControl]="written"
                (keydown.enter)="take()"
                (keydown.escape)="leave($event)"
              />
              <mat-error role="alert">{{ written.getError('refused') }}</mat-error>
            </mat-form-field>
            <button type="button" mat-button (click)="take()">Take it</button>
          } @else {
            <span class="deed">{{ step.deed }}</span>
            <button
              type="button"
              class="figure what"
              [title]="'Change: ' + step.what"
              [attr.aria-label]="'Change step ' + ($index + 1) + ': ' + step.what"
              (click)="edit($index)"
            >
              {{ step.what }}
            </button>
            <button
              type="button"
              class="out"
              [attr.aria-label]="'Leave out step ' + ($index + 1)"
              [disabled]="words().length === 1"
              (click)="leaveOut($index)"
            >
              ×
            </button>
          }
        </li>
      }
    </ol>
  `,
  styleUrl: './step-list.component.scss',
})
export class StepListComponent {
  readonly steps = model.required<readonly Step[]>();
  protected readonly words = computed(() => this.steps().map(stepWords));
  /** The step that is being changed, by its place. */
  protected readonly editing = signal<number | undefined>(undefined);
  /** It as it is written in a file; what is wrong with it is its error `refused`. */
  protected readonly written = new FormControl('', { nonNullable: true });

  protected edit(index: number): void {
    this.written.setValue(JSON.stringify(this.steps()[index]));
    this.editing.set(index);
  }

  /** Takes the step as it was written; what is wrong with it is said at it. */
  protected take(): void {
    const at = this.editing();
    if (at === undefined) return;
    try {
      const [step] = readSteps(`{"steps":[${this.written.value}]}`);
      this.steps.update((steps) => steps.map((one, index) => (index === at ? step! : one)));
      this.editing.set(undefined);
    } catch (error) {
      if (!(error instanceof BadStepsError)) throw error;
      this.written.setErrors({ refused: error.message.replace(/^step 1( \(\S+\))?: /, '') });
      this.written.markAsTouched();
    }
  }

  /** Leaves the step as it was, and the dialog open. */
  protected leave(event: Event): void {
    event.stopPropagation();
    this.editing.set(undefined);
  }

  protected leaveOut(index: number): void {
    this.steps.update((steps) => steps.filter((_, at) => at !== index));
  }

  protected dropped({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.#move(previousIndex, currentIndex);
  }

  protected keyDown(event: KeyboardEvent, index: number): void {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (step === 0) return;
    event.preventDefault();
    const to = index + step;
    if (to < 0 || to >= this.steps().length) return;
    this.#move(index, to);
    const handles = (event.currentTarget as HTMLElement)
      .closest('ol')!
      .querySelectorAll<HTMLElement>('.handle');
    handles[to]?.focus();
  }

  #move(from: number, to: number): void {
    this.editing.set(undefined);
    const steps = [...this.steps()];
    moveItemInArray(steps, from, to);
    this.steps.set(steps);
  }
}
