import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import {
  msText,
  UNIT_WORDS,
  perUnitWords,
  type ComparedFunction,
  type FunctionSide,
  countText,
} from '@nettle-patch/core';

import { CopyTableComponent } from '../reports/copy-table.component';

const SHOWN_AT_FIRST = 60;

/** Functions that are gone, new, cheaper or dearer, for each time that something was done and for each call. */
@Component({
  selector: 'np-compared-functions',
  imports: [CopyTableComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <np-copy-table [table]="table" label="functions that changed" />
    <div class="scroll" tabindex="0" role="region" aria-label="Functions that changed">
      <table #table>
        <thead>
          <tr>
            <th scope="col">Function</th>
            <th scope="col"></th>
            <th scope="col" class="figure">Own time before → after</th>
            <th scope="col">each</th>
            <th scope="col" class="figure">A call</th>
            <th scope="col" class="figure">Calls</th>
          </tr>
        </thead>
        <tbody>
          @for (one of shown(); track $index) {
            <tr>
              <th scope="row" [title]="one.place">
                {{ one.name }} <span class="soft place">{{ one.place }}</span>
              </th>
              <td>
                <span
                  [class.over]="one.change === 'dearer' || one.change === 'new'"
                  [class.good]="one.change === 'cheaper' || one.change === 'gone'"
                  >{{ one.change }}</span
                >
              </td>
              <td class="figure">{{ own(one.before) }} → {{ own(one.after) }}</td>
              <td>{{ units[one.unit] }}</td>
              <td class="figure">{{ each(one.before) }} → {{ each(one.after) }}</td>
              <td class="figure">{{ count(one.before) }} → {{ count(one.after) }}</td>
            </tr>
          } @empty {
            <tr>
              <td colspan="6" class="soft">
                No function changed by more than a tenth and more than sampling alone may move it.
              </td>
            </tr>
          }
        </tbody>
      </table>
      @if (functions().length > shown().length) {
        <button type="button" (click)="all.set(true)">Show all {{ functions().length }}</button>
      }
    </div>
  `,
  styles: `
    :host {
      min-height: 0;
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      justify-items: start;
    }
    .scroll {
      justify-self: stretch;
      overflow: auto;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      font-size: 13px;
    }
    th {
      text-align: left;
      font-weight: 400;
    }
    thead th {
      position: sticky;
      top: 0;
      background: var(--paper);
      color: var(--soft);
      white-space: nowrap;
    }
    th,
    td {
      padding: 3px 10px 3px 0;
      border-bottom: 1px solid var(--line);
    }
    tbody th {
      max-width: 240px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .place {
      font-family: var(--mono);
      font-size: 11.5px;
    }
    .figure {
      text-align: right;
      white-space: nowrap;
    }
    .good {
      color: var(--nettle);
      font-weight: 700;
    }
  `,
})
export class ComparedFunctionsComponent {
  readonly functions = input.required<readonly ComparedFunction[]>();
  protected readonly all = signal(false);
  protected readonly shown = computed(() =>
    this.all() ? this.functions() : this.functions().slice(0, SHOWN_AT_FIRST),
  );

  protected readonly units = UNIT_WORDS;
  protected readonly own = perUnitWords;

  protected each(side: FunctionSide | undefined): string {
    return side?.eachMs === undefined ? '–' : msText(side.eachMs);
  }

  protected count(side: FunctionSide | undefined): string {
    if (side === undefined) return '–';
    return side.count > 0 ? countText(side.count) : '–';
  }
}
