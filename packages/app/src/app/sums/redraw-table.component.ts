import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { MatSortHeader } from '@angular/material/sort';
import { tableOrder } from '../services/table-order';
import { TableOrderDirective } from '../services/table-order.directive';
import { RouterLink } from '@angular/router';
import { countText, secondsText, type TimeRange } from '@nettle-patch/core';
import type { SummedRedraws } from '../../workers/analysis/window-sums';
import { CopyTableComponent } from '../reports/copy-table.component';
import { sortedRows } from '../shared/sorted-rows';
import { sumsAtRest } from './sums-at-rest';

const COLUMNS = {
  element: ({ target = '' }: SummedRedraws) => target,
  times: ({ count }: SummedRedraws) => count,
  inView: ({ inView }: SummedRedraws) => inView,
  outOfView: ({ count, inView }: SummedRedraws) => count - inView,
  seen: ({ visible }: SummedRedraws) => visible,
  unchanged: ({ unchanged }: SummedRedraws) => unchanged,
  writer: ({ writer = '' }: SummedRedraws) => writer,
} as const;

/** Redraws of a range by element: how often, in view or not, with or without a change one could see, and who wrote. */
@Component({
  selector: 'np-redraw-table',
  imports: [MatSortHeader, RouterLink, CopyTableComponent, TableOrderDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="soft">{{ words() }} <np-copy-table [table]="table" label="redraws" /></p>
    <div class="scroll" tabindex="0" role="region" aria-label="Redraws by element">
      <table #table [npOrder]="order">
        <thead>
          <tr>
            <th scope="col" mat-sort-header="element" start="asc">element</th>
            <th scope="col" mat-sort-header="times" start="desc" arrowPosition="before">times</th>
            <th scope="col" mat-sort-header="inView" start="desc" arrowPosition="before">in view</th>
            <th scope="col" mat-sort-header="outOfView" start="desc" arrowPosition="before">out of view</th>
            <th scope="col" mat-sort-header="seen" start="desc" arrowPosition="before">change one sees</th>
            <th scope="col" mat-sort-header="unchanged" start="desc" arrowPosition="before">no change</th>
            <th scope="col" mat-sort-header="writer" start="asc">written most by</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.target) {
            <tr>
              <td class="name">{{ row.target ?? 'not told' }}</td>
              <td class="right figure">{{ count(row.count) }}</td>
              <td class="right figure">{{ count(row.inView) }}</td>
              <td class="right figure">{{ count(row.count - row.inView) }}</td>
              <td class="right figure">{{ count(row.visible) }}</td>
              <td class="right figure">{{ count(row.unchanged) }}</td>
              <td class="name">
                @if (row.functionId !== undefined) {
                  <a
                    [routerLink]="['/source', recordingId()]"
                    [queryParams]="{ function: row.functionId }"
                    queryParamsHandling="merge"
                    [textContent]="row.writer"
                  ></a>
                  @if (row.written < row.count) {
                    <span class="soft"> {{ count(row.written) }} of them</span>
                  }
                } @else if (row.writer !== undefined) {
                  <span class="soft">not known; {{ row.writer }} ran last before</span>
                } @else {
                  <span class="soft">not known</span>
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  `,
  styleUrl: '../shared/scrolled-table.scss',
  styles: `
    :host {
      font-size: 13px;
    }
    p {
      padding: 8px 18px;
    }
    .name {
      overflow-wrap: anywhere;
    }
  `,
})
export class RedrawTableComponent {
  readonly range = input.required<TimeRange>();
  readonly recordingId = input.required<string>();

  readonly #found = sumsAtRest(this.range);
  protected readonly order = tableOrder('redraws', { active: 'times', direction: 'desc' });
  protected readonly sort = this.order.sort;
  protected readonly rows = computed(() => sortedRows(this.#found()?.redraws ?? [], COLUMNS, this.sort()));
  protected readonly words = computed(() => {
    const { startMs, endMs } = this.range();
    const found = this.#found();
    const all = this.rows().reduce((sum, { count }) => sum + count, 0);
    const seen = this.rows().reduce((sum, { visible }) => sum + visible, 0);
    if (found === undefined) return 'Adding up…';
    return `${countText(all)} redraws of ${countText(this.rows().length)} elements from ${secondsText(startMs)} to ${secondsText(endMs)}; ${countText(seen)} changed something one could see. A redraw is what one handler wrote before one frame.`;
  });
  protected readonly count = countText;
}
