import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { BecausePart } from '@nettle-patch/core';
import type { NamedFunction } from '../../workers/analysis/analysis-results';

/** The sentence that says why. Each function in it is a button that points the function out below. */
@Component({
  selector: 'np-because',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p data-testid="because">
      @for (part of parts(); track $index) {
        @switch (part.type) {
          @case ('function') {
            <button
              type="button"
              class="name-button"
              [class.library]="functions().get(part.functionId)?.owner !== 'own'"
              [attr.aria-pressed]="part.functionId === selected()"
              [title]="functions().get(part.functionId)?.place"
              [textContent]="part.text"
              (click)="choose.emit(part.functionId)"
            ></button>
          }
          @case ('figure') {
            <span class="figure" [class.over]="part.over">{{ part.text }}</span>
          }
          @case ('phase') {
            <span [class]="'phase ' + part.phase">{{ part.text }}</span>
          }
          @default {
            <span>{{ part.text }}</span>
          }
        }
      }
    </p>
  `,
  styles: `
    p {
      font-size: 17px;
      line-height: 1.5;
      max-width: 46em;
      text-wrap: pretty;
    }
    button.library {
      border-color: var(--script-library);
    }
    button[aria-pressed='true'] {
      background: color-mix(in srgb, var(--script-own) 16%, transparent);
    }
    .phase {
      border-bottom: 2px solid var(--waiting);
    }
    .phase.handling {
      border-color: var(--handling);
    }
    .phase.drawing {
      border-color: var(--drawing);
    }
  `,
})
export class BecauseComponent {
  readonly parts = input.required<readonly BecausePart[]>();
  readonly functions = input.required<ReadonlyMap<number, NamedFunction>>();
  readonly selected = input<number>();
  readonly choose = output<number>();
}
