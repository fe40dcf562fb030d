import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { BecausePart, Suggestion } from '@nettle-patch/core';

/** What could be done, each with what was seen that speaks for it. */
@Component({
  selector: 'np-suggestions',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (suggestions().length > 0) {
      <h3>What could be done</h3>
      <ul>
        @for (suggestion of suggestions(); track $index) {
          <li>
            <p>
              @for (part of suggestion.advice; track $index) {
                @if (part.type === 'function') {
                  <button
                    type="button"
                    class="name-button"
                    [textContent]="part.text"
                    (click)="choose.emit(part.functionId)"
                  ></button>
                } @else {
                  <span [textContent]="part.text"></span>
                }
              }
            </p>
            <p class="soft" [textContent]="words(suggestion.evidence)"></p>
          </li>
        }
      </ul>
    }
  `,
  styles: `
    h3 {
      font-size: 13px;
      color: var(--soft);
      margin-bottom: 4px;
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
      display: grid;
      gap: 8px;
    }
    li {
      padding-left: 12px;
      border-left: 2px solid var(--nettle);
      max-width: 62em;
    }
    .soft {
      font-size: 13px;
    }
  `,
})
export class SuggestionsComponent {
  readonly suggestions = input.required<readonly Suggestion[]>();
  readonly choose = output<number>();

  protected words(parts: readonly BecausePart[]): string {
    return parts.map(({ text }) => text).join('');
  }
}
