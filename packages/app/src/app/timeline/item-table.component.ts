import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import type { TimeRange } from '@nettle-patch/core';
import type { LaneInfo, ItemLine } from '../../workers/analysis/queries/timeline-queries';
import { RecordingService } from '../services/recording.service';
import { answerTo } from '../shared/answer-to';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { debounceTime } from 'rxjs';
import { secondsText } from '@nettle-patch/core';

const AFTER_MOVES_MS = 250;

/** What stands in a lane and a stretch of time, as a table. */
@Component({
  selector: 'np-item-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <label
        >Lane
        <select [value]="lane()" (change)="lane.set($any($event.target).value)">
          @for (one of lanes(); track one.id) {
            <option [value]="one.id" [selected]="one.id === lane()">{{ one.title }}</option>
          }
        </select>
      </label>
      <span class="soft">{{ words() }}</span>
    </div>
    <div class="scroll" tabindex="0" role="region" aria-label="Things in this lane">
      <table>
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
              <td class="right figure">{{ (line.startMs / 1000).toFixed(3) }}</td>
              <td class="right figure">{{ line.lengthMs.toFixed(2) }}</td>
              <td [style.padding-left.px]="8 + line.row * 12">
                <button type="button" (click)="choose.emit(line.ref)" [textContent]="line.words"></button>
              </td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      min-height: 0;
    }
    .head {
      display: flex;
      gap: 16px;
      align-items: center;
      padding: 8px 18px;
      font-size: 13px;
    }
    select {
      font: inherit;
      color: inherit;
      background: var(--panel);
      padding: 4px 6px;
      border: 1px solid var(--edge);
      border-radius: 4px;
    }
    .scroll {
      overflow: auto;
      padding: 0 18px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      position: sticky;
      top: 0;
      font-size: 12px;
      font-weight: 400;
      text-align: left;
      color: var(--soft);
      background: var(--paper);
    }
    th,
    td {
      padding: 3px 8px;
      border-bottom: 1px solid var(--line);
    }
    .right {
      width: 110px;
      text-align: right;
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
  readonly choose = output<number>();
  readonly laneChange = output<string>();

  readonly #recordings = inject(RecordingService);
  protected readonly lane = linkedSignal(
    () =>
      this.firstLane() ?? this.lanes().find(({ kind }) => kind === 'thread')?.id ?? this.lanes()[0]?.id ?? '',
  );
  readonly #asked = toSignal(
    toObservable(computed(() => ({ lane: this.lane(), shown: this.shown() }))).pipe(
      debounceTime(AFTER_MOVES_MS),
    ),
  );
  readonly #found = answerTo(this.#asked, ({ lane, shown }) =>
    this.#recordings.ask('itemLines', lane, shown),
  );
  protected readonly lines = computed((): readonly ItemLine[] => this.#found() ?? []);
  protected readonly words = computed(() => {
    const count = this.lines().length;
    const { startMs, endMs } = this.shown();
    return `${count} ${count === 1 ? 'thing' : 'things'} from ${secondsText(startMs)} to ${secondsText(endMs)}, at most the 300 longest`;
  });

  constructor() {
    effect(() => this.laneChange.emit(this.lane()));
  }
}
