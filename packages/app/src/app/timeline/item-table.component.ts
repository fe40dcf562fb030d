import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import type { TimeRange } from '@nettle-patch/core';
import { map } from 'rxjs';
import { MatSortHeader } from '@angular/material/sort';
import { tableOrder } from '../services/table-order';
import { TableOrderDirective } from '../services/table-order.directive';
import { ITEM_COLUMNS, type ItemOrder } from '../../workers/analysis/queries/item-order';
import type { LaneInfo } from '../../workers/analysis/queries/timeline-queries';
import { CopyTableComponent } from '../reports/copy-table.component';
import { RecordingService } from '../services/recording.service';
import { answerTo } from '../shared/answer-to';
import { atRest } from '../shared/at-rest';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';
import { countText, countedText, decimalText, secondsText } from '@nettle-patch/core';
import type { ItemRef } from './item-parameter';

const AFTER_MOVES_MS = 250;

/** What stands in a lane and a stretch of time, as a table. */
@Component({
  selector: 'np-item-table',
  imports: [MatSortHeader, ChoiceComponent, CopyTableComponent, TableOrderDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <np-choice
        title="Lane"
        label="Lane"
        [options]="options()"
        [value]="lane()"
        (choose)="lane.set($event)"
      />
      <span class="soft">{{ words() }}</span>
      <np-copy-table [table]="table" label="things in this lane" />
    </div>
    <div class="scroll" tabindex="0" role="region" aria-label="Things in this lane">
      <table #table [npOrder]="order">
        <thead>
          <tr>
            <th scope="col" class="right" mat-sort-header="startMs" arrowPosition="before">start s</th>
            <th scope="col" class="right" mat-sort-header="lengthMs" start="desc" arrowPosition="before">
              length ms
            </th>
            <th scope="col" mat-sort-header="words">what</th>
          </tr>
        </thead>
        <tbody>
          @for (line of lines(); track $index) {
            <tr [class.on]="line.ref === selected()">
              <td class="right figure">{{ decimal(line.startMs / 1000, 3) }}</td>
              <td class="right figure">{{ decimal(line.lengthMs, 2) }}</td>
              <td [style.padding-left.px]="8 + (sort().active === 'startMs' ? line.row * 12 : 0)">
                <button
                  type="button"
                  (click)="choose.emit({ lane: lane(), ref: line.ref })"
                  [textContent]="line.words"
                ></button>
              </td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  `,
  styleUrl: '../shared/scrolled-table.scss',
  styles: `
    .head {
      display: flex;
      gap: 16px;
      align-items: center;
      padding: 8px 18px;
      font-size: 13px;
    }
    .right {
      width: 110px;
    }
    tr.on td {
      background: var(--nettle-soft);
    }
    button {
      padding: 0;
      border: 0;
      background: none;
      font: inherit;
      color: inherit;
      text-align: left;
      cursor: pointer;
    }
  `,
})
export class ItemTableComponent {
  readonly lanes = input.required<readonly LaneInfo[]>();
  readonly shown = input.required<TimeRange>();
  readonly firstLane = input<string>();
  readonly selected = input<number>();
  readonly choose = output<ItemRef>();

  readonly #recordings = inject(RecordingService);
  protected readonly lane = linkedSignal(
    () =>
      this.firstLane() ?? this.lanes().find(({ kind }) => kind === 'thread')?.id ?? this.lanes()[0]?.id ?? '',
  );
  protected readonly options = computed((): readonly ChoiceOption<string>[] =>
    this.lanes().map(({ id, title }) => ({ value: id, words: title })),
  );
  readonly #asked = atRest(
    computed(() => ({ lane: this.lane(), shown: this.shown() })),
    AFTER_MOVES_MS,
  );
  /** At first the longest: those are looked for. */
  protected readonly order = tableOrder('items', { active: 'lengthMs', direction: 'desc' });
  protected readonly sort = this.order.sort;
  readonly #order = computed((): ItemOrder => {
    const { active, direction } = this.sort();
    const column = ITEM_COLUMNS.find((one) => one === active) ?? 'lengthMs';
    return { column, isDescending: direction === 'desc' };
  });
  readonly #found = answerTo(
    computed(() => {
      const [asked, order] = [this.#asked(), this.#order()];
      return asked === undefined ? undefined : { ...asked, order };
    }),
    ({ lane, shown, order }) =>
      this.#recordings.ask('itemLines', lane, shown, order).pipe(map((found) => ({ lane, ...found }))),
  );
  /** What is listed: nothing of the lane before, once another is chosen. */
  protected readonly lines = computed(() => {
    const found = this.#found();
    return found?.lane === this.lane() ? found.lines : [];
  });
  protected readonly decimal = decimalText;
  protected readonly words = computed(() => {
    const { startMs, endMs } = this.shown();
    const cut = this.#found()?.cut ?? 0;
    const more = cut === 0 ? '' : `; ${countText(cut)} more follow in this order`;
    return `${countedText(this.lines().length, 'thing')} from ${secondsText(startMs)} to ${secondsText(endMs)}${more}`;
  });
}
