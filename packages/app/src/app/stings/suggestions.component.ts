import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { shortPlace, type BecausePart, type Suggestion } from '@nettle-patch/core';
import type { NamedFunction } from '../../workers/analysis/analysis-results';

/** What could be done, each with what was seen that speaks for it. */
@Component({
  selector: 'np-suggestions',
  imports: [RouterLink],
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
            <p class="soft">
              <span [textContent]="words(suggestion.evidence)"></span>
              @for (place of placesOf(suggestion); track place.functionId) {
                <a
                  class="figure"
                  [title]="place.place"
                  [routerLink]="['/source', recordingId()]"
                  [queryParams]="{ function: place.functionId }"
                  queryParamsHandling="merge"
                  [textContent]="short(place.place)"
                ></a>
              }
            </p>
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
    .figure {
      margin-left: 8px;
    }
  `,
})
export class SuggestionsComponent {
  readonly suggestions = input.required<readonly Suggestion[]>();
  readonly functions = input.required<ReadonlyMap<number, NamedFunction>>();
  readonly recordingId = input.required<string>();
  readonly choose = output<number>();
  protected readonly short = shortPlace;

  /** Where what a suggestion speaks of is to be seen. */
  protected placesOf({ advice, evidence }: Suggestion): { functionId: number; place: string }[] {
    const ids = [...advice, ...evidence].flatMap((part) => (part.type === 'function' ? part.functionId : []));
    return [...new Set(ids)].flatMap((functionId) => {
      const place = this.functions().get(functionId)?.place ?? '';
      return place === '' ? [] : [{ functionId, place }];
    });
  }

  protected words(parts: readonly BecausePart[]): string {
    return parts.map(({ text }) => text).join('');
  }
}
