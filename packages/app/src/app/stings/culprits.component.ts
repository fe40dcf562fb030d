import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatSortHeader } from '@angular/material/sort';
import { tableOrder } from '../services/table-order';
import { TableOrderDirective } from '../services/table-order.directive';
import { RouterLink } from '@angular/router';
import { countText, msText, percentText, shortPlace, type Culprit } from '@nettle-patch/core';
import { LookCloserComponent } from '../record/look-closer.component';
import { LensService } from '../services/lens.service';
import { sortedRows } from '../shared/sorted-rows';
import { MAX_HOT_LINES, type OpenedSting } from '../../workers/analysis/analysis-results';

const SHOWN = 5;
/** What is charged with less than this share of the time that was spent on anything is not listed. */
const MIN_SHARE = 0.01;
/** The least share of a function that a line of it must have to be shown. */
const MIN_LINE_SHARE = 0.05;

/** Functions by the time that is charged to them, with file and line and what would be saved at most without them. */
@Component({
  selector: 'np-culprits',
  imports: [LookCloserComponent, MatSortHeader, RouterLink, TableOrderDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>What would help most{{ slower() > 1 ? ', lengths estimated' : '' }}</h3>
    @if (rows().length > 0) {
      <table [npOrder]="order">
        <thead>
          <tr>
            <th scope="col" mat-sort-header="name" start="asc">function, and where it is</th>
            <th
              scope="col"
              class="right"
              mat-sort-header="selfMs"
              start="desc"
              arrowPosition="before"
              title="In its own code"
            >
              self
            </th>
            <th
              scope="col"
              class="right"
              mat-sort-header="chargedMs"
              start="desc"
              arrowPosition="before"
              title="Its own code, and the libraries and layouts it brings"
            >
              with libraries
            </th>
            <th
              scope="col"
              class="right"
              mat-sort-header="savedMs"
              start="desc"
              arrowPosition="before"
              title="An upper bound: without it, all that it calls would go too, as far as nobody else needs that"
            >
              would save up to
            </th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.functionId) {
            <tr [class.on]="row.functionId === selected()" (click)="choose.emit(row.functionId)">
              <td class="name">
                <button type="button" [title]="row.name" [attr.aria-pressed]="row.functionId === selected()">
                  {{ row.name }}
                </button>
                @if (row.place !== '') {
                  <a
                    class="figure where soft"
                    [title]="row.place"
                    [routerLink]="['/source', recordingId()]"
                    [queryParams]="{ function: row.functionId }"
                    queryParamsHandling="merge"
                    (click)="$event.stopPropagation()"
                    [textContent]="row.short"
                  ></a>
                }
                @if (row.start !== undefined && row.functionId === (selected() ?? rows()[0]!.functionId)) {
                  <np-look-closer class="closer" [name]="row.name" [start]="row.start" />
                }
                @for (hot of row.hotLines; track hot.line) {
                  <a
                    class="figure hot"
                    [routerLink]="['/source', recordingId()]"
                    [queryParams]="{ function: row.functionId, line: hot.line }"
                    queryParamsHandling="merge"
                    [title]="hot.title"
                    (click)="$event.stopPropagation()"
                  >
                    <i aria-hidden="true" [style.width.%]="hot.share * 100"></i>
                    <span>line {{ hot.line }}, {{ hot.percent }}</span>
                    <code [textContent]="hot.code"></code>
                  </a>
                }
              </td>
              <td class="right figure">{{ row.selfMs }}</td>
              <td class="right figure">{{ row.chargedMs }}</td>
              <td class="right figure save">
                <i aria-hidden="true" [class.library]="row.owner !== 'own'" [style.width.px]="row.bar"></i
                >{{ row.savedMs }} ms
              </td>
            </tr>
          }
        </tbody>
      </table>
      @if (more() > 0) {
        <p class="soft">and {{ more() }} more</p>
      }
      @if (recorderMs() >= 1) {
        <p class="soft">The recorder’s own script took {{ ms(recorderMs()) }} of it.</p>
      }
    } @else {
      <p class="soft">No code was seen in this stretch.</p>
    }
  `,
  styles: `
    h3 {
      font-size: 13px;
      color: var(--soft);
      margin-bottom: 2px;
    }
    table {
      border-collapse: collapse;
      table-layout: fixed;
      width: 100%;
    }
    th:nth-child(2) {
      width: 62px;
    }
    th:nth-child(3) {
      width: 108px;
    }
    th:last-child {
      width: 142px;
    }
    th {
      font-size: 12px;
      font-weight: 400;
      color: var(--soft);
      text-align: left;
    }
    th,
    td {
      padding: 3px 6px;
    }
    td {
      border-top: 1px solid var(--line);
    }
    tr.on td {
      background: color-mix(in srgb, var(--script-own) 12%, transparent);
    }
    tbody tr {
      cursor: pointer;
    }
    .name button {
      font: inherit;
      font-weight: 700;
      color: inherit;
      padding: 0;
      border: 0;
      background: none;
      cursor: pointer;
      text-align: left;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
      max-width: 100%;
      min-height: 24px;
    }
    .where {
      display: block;
      line-height: 24px;
      font-size: 12.5px;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .hot {
      position: relative;
      display: flex;
      gap: 8px;
      min-height: 24px;
      align-items: center;
      padding: 0 4px;
      font-size: 12.5px;
      color: inherit;
      white-space: nowrap;
      overflow: hidden;
    }
    .hot i {
      position: absolute;
      inset: 3px auto 3px 0;
      background: color-mix(in srgb, var(--script-own) 22%, transparent);
    }
    .hot span,
    .hot code {
      position: relative;
    }
    .hot code {
      overflow: hidden;
      text-overflow: ellipsis;
      color: var(--soft);
    }
    .closer {
      display: block;
      margin: 4px 0;
    }
    .right {
      text-align: right;
      white-space: nowrap;
    }
    .save i {
      display: inline-block;
      height: 9px;
      margin-right: 7px;
      background: var(--script-own);
    }
    .save i.library {
      background: var(--script-library);
    }
  `,
})
export class CulpritsComponent {
  readonly shown = input.required<OpenedSting>();
  readonly recordingId = input.required<string>();
  readonly selected = input<number>();
  readonly choose = output<number>();
  protected readonly slower = inject(LensService).slower;

  protected readonly order = tableOrder('culprits', { active: 'chargedMs', direction: 'desc' });
  protected readonly sort = this.order.sort;
  /** The most, or the least, of those that took a part worth telling. */
  readonly #worth = computed(() => {
    const { functions, anatomy } = this.shown();
    const { culprits, blame } = anatomy;
    const leastMs = (blame.totalMs - blame.idleMs) * MIN_SHARE;
    const worth = culprits.filter(({ chargedMs }, index) => index === 0 || chargedMs >= leastMs);
    const columns = {
      name: ({ functionId }: Culprit) => functions.get(functionId)!.name,
      selfMs: ({ selfMs }: Culprit) => selfMs,
      chargedMs: ({ chargedMs }: Culprit) => chargedMs,
      savedMs: ({ savedMs }: Culprit) => savedMs,
    };
    return sortedRows(worth, columns, this.sort()).slice(0, SHOWN);
  });
  protected readonly recorderMs = computed(() => this.shown().anatomy.recorderMs * this.slower());
  protected readonly ms = msText;
  protected readonly more = computed(() => this.shown().anatomy.culprits.length - this.#worth().length);
  protected readonly rows = computed(() => {
    const { functions, codeOfLines: codeOf } = this.shown();
    const most = Math.max(1, ...this.#worth().map(({ savedMs }) => savedMs));
    return this.#worth().map(({ functionId, selfMs, chargedMs, savedMs, hotLines }) => ({
      functionId,
      ...functions.get(functionId)!,
      short: shortPlace(functions.get(functionId)!.place),
      selfMs: countText(Math.round(selfMs * this.slower())),
      chargedMs: countText(Math.round(chargedMs * this.slower())),
      savedMs: countText(Math.round(savedMs * this.slower())),
      bar: Math.max(1, (savedMs / most) * 56),
      hotLines: hotLines
        .filter((hot) => hot.chargedMs >= chargedMs * MIN_LINE_SHARE)
        .slice(0, MAX_HOT_LINES)
        .map(({ line, chargedMs: lineMs }) => ({
          line,
          share: lineMs / chargedMs,
          percent: percentText(lineMs / chargedMs),
          code: codeOf.get(`${functionId} ${line}`) ?? '',
          title: `${msText(lineMs * this.slower())} were charged to this line by samples`,
        })),
    }));
  });
}
