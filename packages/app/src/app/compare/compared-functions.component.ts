import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatSortHeader } from '@angular/material/sort';
import { tableOrder } from '../services/table-order';
import { TableOrderDirective } from '../services/table-order.directive';
import {
  CHANGE_WORDS,
  msText,
  UNIT_WORDS,
  perUnitWords,
  type ComparedFunction,
  type FunctionSide,
  countText,
} from '@nettle-patch/core';

import { CopyTableComponent } from '../reports/copy-table.component';
import { sortedRows } from '../shared/sorted-rows';

const SHOWN_AT_FIRST = 60;
const COLUMNS = {
  name: ({ name }: ComparedFunction) => name,
  change: ({ change }: ComparedFunction) => CHANGE_WORDS[change],
  unit: ({ unit }: ComparedFunction) => unit,
  differenceMs: ({ perUnitChangeMs }: ComparedFunction) => Math.abs(perUnitChangeMs),
  eachMs: ({ before, after }: ComparedFunction) => (after?.eachMs ?? 0) - (before?.eachMs ?? 0),
  calls: ({ before, after }: ComparedFunction) => (after?.count ?? 0) - (before?.count ?? 0),
};

/** Functions that are gone, new, or take less or more, for each time that something was done and for each call. */
@Component({
  selector: 'np-compared-functions',
  imports: [CopyTableComponent, MatButtonModule, MatSortHeader, TableOrderDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <np-copy-table [table]="table" label="functions that changed" />
    <div class="scroll" tabindex="0" role="region" aria-label="Functions that changed">
      <table #table [npOrder]="order">
        <thead>
          <tr>
            <th scope="col" mat-sort-header="name">Function</th>
            <th scope="col" mat-sort-header="change">Change</th>
            <th
              scope="col"
              class="figure"
              mat-sort-header="differenceMs"
              start="desc"
              arrowPosition="before"
              title="In order of the difference, in either direction"
            >
              Own time before → after
            </th>
            <th scope="col" mat-sort-header="unit">per</th>
            @if (isTimed()) {
              <th
                scope="col"
                class="figure"
                mat-sort-header="eachMs"
                start="desc"
                arrowPosition="before"
                title="In order of the difference"
              >
                A call
              </th>
            }
            @if (isCounted()) {
              <th
                scope="col"
                class="figure"
                mat-sort-header="calls"
                start="desc"
                arrowPosition="before"
                title="In order of the difference"
              >
                Calls
              </th>
            }
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
                  >{{ changes[one.change] }}</span
                >
              </td>
              <td class="figure">{{ own(one.before) }} → {{ own(one.after) }}</td>
              <td>{{ units[one.unit] }}</td>
              @if (isTimed()) {
                <td class="figure">{{ each(one.before) }} → {{ each(one.after) }}</td>
              }
              @if (isCounted()) {
                <td class="figure">{{ count(one.before) }} → {{ count(one.after) }}</td>
              }
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
        <button type="button" mat-button (click)="all.set(true)">Show all {{ functions().length }}</button>
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
  protected readonly order = tableOrder('compared', { active: 'differenceMs', direction: 'desc' });
  protected readonly sort = this.order.sort;
  protected readonly shown = computed(() => {
    const rows = sortedRows(this.functions(), COLUMNS, this.sort());
    return this.all() ? rows : rows.slice(0, SHOWN_AT_FIRST);
  });

  readonly #sides = computed(() =>
    this.functions()
      .flatMap(({ before, after }) => [before, after])
      .filter((side) => side !== undefined),
  );
  /** Samples alone tell neither what a call took nor how many there were. */
  protected readonly isTimed = computed(() => this.#sides().some(({ eachMs }) => eachMs !== undefined));
  protected readonly isCounted = computed(() => this.#sides().some(({ count }) => count > 0));

  protected readonly changes = CHANGE_WORDS;
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
