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
import type { LaneInfo } from '../../workers/analysis/queries/timeline-queries';
import { CopyTableComponent } from '../reports/copy-table.component';
import { RecordingService } from '../services/recording.service';
import { answerTo } from '../shared/answer-to';
import { atRest } from '../shared/at-rest';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';
import { decimalText, secondsText } from '@nettle-patch/core';
import type { ItemRef } from './item-parameter';

const AFTER_MOVES_MS = 250;

/** What stands in a lane and a stretch of time, as a table. */
@Component({
  selector: 'np-item-table',
  imports: [ChoiceComponent, CopyTableComponent],
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
      <table #table>
        <thead>
          <tr>
            <th scope="col" class="right">at s</th>
            <th scope="col" class="right">length ms</th>
            <th scope="col">what</th>
          </tr>
        </thead>
        <tbody>
          @for (line of lines(); track $index) {
            <tr [class.on]="line.ref === selected()">
              <td class="right figure">{{ decimal(line.startMs / 1000, 3) }}</td>
              <td class="right figure">{{ decimal(line.lengthMs, 2) }}</td>
              <td [style.padding-left.px]="8 + line.row * 12">
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
  readonly #found = answerTo(this.#asked, ({ lane, shown }) =>
    this.#recordings.ask('itemLines', lane, shown).pipe(map((lines) => ({ lane, lines }))),
  );
  /** What is listed: nothing of the lane before, once another is chosen. */
  protected readonly lines = computed(() => {
    const found = this.#found();
    return found?.lane === this.lane() ? found.lines : [];
  });
  protected readonly decimal = decimalText;
  protected readonly words = computed(() => {
    const count = this.lines().length;
    const { startMs, endMs } = this.shown();
    return `${count} ${count === 1 ? 'thing' : 'things'} from ${secondsText(startMs)} to ${secondsText(endMs)}, at most the 300 longest`;
  });
}
