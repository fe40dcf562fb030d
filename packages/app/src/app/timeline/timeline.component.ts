import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatMenuModule } from '@angular/material/menu';
import type { TimeRange } from '@nettle-patch/core';
import type { ItemDetails } from '../../workers/analysis/item-details-types';
import { AddressService } from '../services/address.service';
import { ChosenFunctionService } from '../services/chosen-function.service';
import { LensService } from '../services/lens.service';
import { PreferencesService } from '../services/preferences.service';
import { RecordingService } from '../services/recording.service';
import { StingChoiceService } from '../services/sting-choice.service';
import { TimeWindowService } from '../services/time-window.service';
import { IconComponent } from '../shared/icon.component';
import { ShortcutsService } from '../services/shortcuts.service';
import { PaneDividerComponent } from '../panes/pane-divider.component';
import { PanesDirective } from '../panes/panes.directive';
import { OpeningComponent } from '../shell/opening.component';
import { incrementalRender } from '../shared/incremental-render';
import { LensToolsComponent } from '../lens/lens-tools.component';
import { LadderComponent } from './ladder.component';
import { RedrawTableComponent } from '../sums/redraw-table.component';
import { inOrder, moved, toggled, type LanePreferences } from './lane-order';
import { ItemPanelComponent } from './item-panel.component';
import { readItem, itemParameter } from './item-parameter';
import { ItemTableComponent } from './item-table.component';
import { TimeViewComponent, type TimePlace } from './time-view.component';
import { around, showing, zoomed } from '../shared/time-window';
import { answerTo } from '../shared/answer-to';
import { firstValueFrom } from 'rxjs';
import { announceTimeline } from './announce-timeline';

const SHOWN = ['time', 'ladder', 'table', 'redraws'] as const;
type Shown = (typeof SHOWN)[number];

const BUTTON_ZOOM = 0.5;

/** Everything that happened, over a common time axis or as the ladder, with details of what is selected. */
@Component({
  selector: 'np-timeline',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatMenuModule,
    IconComponent,
    LadderComponent,
    LensToolsComponent,
    OpeningComponent,
    PaneDividerComponent,
    PanesDirective,
    ItemPanelComponent,
    ItemTableComponent,
    RedrawTableComponent,
    TimeViewComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'keyDown($event)' },
  templateUrl: './timeline.component.html',
  styleUrl: './timeline.component.scss',
})
export class TimelineComponent {
  readonly #recordings = inject(RecordingService);
  readonly #preferences = inject(PreferencesService);
  readonly #address = inject(AddressService);
  readonly #lens = inject(LensService);
  readonly #shortcuts = inject(ShortcutsService);
  readonly #choice = inject(StingChoiceService);
  readonly #chosen = inject(ChosenFunctionService);
  readonly id = input.required<string>();
  /** How it is shown, from the address. */
  readonly show = input<string>();
  /** What is selected, from the address. */
  readonly thing = input<string>();

  private readonly view = viewChild(TimeViewComponent);
  protected readonly built = incrementalRender(2);
  protected readonly opened = this.#recordings.openedAs(this.id);
  protected readonly shownAs = computed((): Shown => SHOWN.find((one) => one === this.show()) ?? 'time');
  readonly #all = answerTo(
    computed(() => this.opened()?.id),
    () => this.#recordings.ask('lanes'),
  );
  protected readonly kept = computed((): LanePreferences => this.#preferences.now().lanes);
  /** All lanes of the recording, in their order. */
  protected readonly lanes = computed(() => inOrder(this.#all() ?? [], this.kept().order));
  protected readonly visible = computed(() =>
    this.lanes().filter(({ id }) => !this.kept().hidden.includes(id)),
  );
  protected readonly selected = computed(() => readItem(this.thing()));
  readonly #selectedDetails = answerTo(
    computed(() => {
      const [opened, selected] = [this.opened(), this.selected()];
      return opened === undefined || selected === undefined ? undefined : { opened, selected };
    }),
    ({ selected: { lane, ref } }) => this.#recordings.ask('item', lane, ref),
  );
  /** What was chosen and has no number of its own, so that the address cannot hold it. */
  readonly #chosenDetails = signal<ItemDetails | undefined>(undefined);
  protected readonly details = computed(() =>
    this.selected() === undefined ? this.#chosenDetails() : this.#selectedDetails(),
  );
  protected readonly shown = inject(TimeWindowService).shown;
  /** What is summed while nothing is selected: the range of the lens, or else what is in view. */
  protected readonly summed = computed((): TimeRange => this.#lens.lens().range ?? this.shown());
  protected readonly summedAs = computed(() =>
    this.#lens.lens().range === undefined ? 'In view' : 'In the range of the lens',
  );

  constructor() {
    announceTimeline({
      details: this.details,
      sting: this.#choice.selectedSting,
      shown: this.shown,
    });
    effect(() => void this.#recordings.openStored(this.id()));
    effect(() => {
      const functionId = this.details()?.functionId;
      if (functionId !== undefined) untracked(() => this.#chosen.choose(functionId));
    });
    effect(() => {
      const whole = this.opened()?.range;
      const wanted = this.#lens.lens().range ?? untracked(() => this.#askedSting());
      if (wanted !== undefined && whole !== undefined && !untracked(() => this.#sees(wanted)))
        this.shown.set(around(whole, wanted));
    });
  }

  protected setShown(show: Shown): void {
    void this.#address.change({ show: show === 'time' ? null : show });
  }

  protected setRange(range: TimeRange | undefined): void {
    this.#lens.change({ range });
  }

  protected async choose({ lane, ms, row, withinMs }: TimePlace): Promise<void> {
    const asked = this.#recordings.ask('itemAt', lane, ms, row, withinMs);
    const details = await firstValueFrom(asked, { defaultValue: undefined });
    if (details?.ref !== undefined) this.chooseItem(lane, details.ref);
    else {
      this.#chosenDetails.set(details);
      await this.#address.change({ thing: null });
    }
  }

  protected chooseItem(lane: string, ref: number): void {
    void this.#address.change({ thing: itemParameter(lane, ref) });
  }

  /** Lets go of what is selected, and of the function that was chosen by it. */
  protected letGo(): void {
    this.#chosenDetails.set(undefined);
    void this.#address.change({ thing: null, function: null });
  }

  protected zoomTo(range: TimeRange): void {
    this.shown.set(around(this.opened()!.range, range));
  }

  protected goTo(ms: number): void {
    this.shown.set(showing(this.opened()!.range, this.shown(), { startMs: ms, endMs: ms }));
  }

  protected zoom(isIn: boolean): void {
    const { startMs, endMs } = this.shown();
    const factor = isIn ? BUTTON_ZOOM : 1 / BUTTON_ZOOM;
    this.shown.set(zoomed(this.opened()!.range, this.shown(), (startMs + endMs) / 2, factor));
  }

  protected fit(): void {
    this.shown.set(this.opened()!.range);
  }

  protected moveLane(lane: string, step: number): void {
    const hidden = this.lanes().filter(({ id }) => this.kept().hidden.includes(id));
    const order = [...moved(this.visible(), lane, step), ...hidden.map(({ id }) => id)];
    this.#keepLanes({ order });
  }

  protected foldLane(lane: string): void {
    this.#keepLanes({ folded: toggled(this.kept().folded, lane) });
  }

  protected hideLane(lane: string): void {
    this.#keepLanes({ hidden: toggled(this.kept().hidden, lane) });
  }

  protected keyDown(event: KeyboardEvent): void {
    if (this.#shortcuts.isBehindDialog()) return;
    if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      const lane = this.selected()?.lane;
      if (lane !== undefined) this.moveLane(lane, event.key === 'ArrowUp' ? -1 : 1);
      event.preventDefault();
      return;
    }
    if (!this.#shortcuts.mayAct(event)) return;
    const range = this.#lens.lens().range;
    if (event.key === '[') this.#stepSting(-1);
    else if (event.key === ']') this.#stepSting(1);
    else if (event.key === 'z' && range !== undefined) this.zoomTo(range);
    else if (event.key === 'Escape' && this.details() !== undefined) this.letGo();
    else if (event.key === ',' || event.key === '.') this.#stepItem(event.key === '.' ? 1 : -1, 0);
    else if (this.shownAs() === 'time' && (event.key === 'ArrowUp' || event.key === 'ArrowDown'))
      this.#stepItem(0, event.key === 'ArrowDown' ? 1 : -1);
    else return;
    event.preventDefault();
  }

  /** The next sting in order of time, or the one before. */
  #stepSting(step: number): void {
    const { stings } = this.opened()!;
    const shown = this.#choice.series().flatMap((series) => series.stings);
    const inTime = shown.sort((a, b) => stings[a]!.startMs - stings[b]!.startMs);
    const next = inTime[inTime.indexOf(this.#choice.selected() ?? -1) + step];
    if (next === undefined) return;
    this.#choice.choose(next);
    this.zoomTo(stings[next]!);
  }

  /** To the thing beside what is selected, or in the row above or below it. */
  #stepItem(across: number, down: number): void {
    const selected = this.selected();
    const details = this.details();
    const lanes = this.view()?.drawn()?.lanes;
    const laneId = selected?.lane ?? this.visible()[0]?.id;
    const items = lanes?.find(({ id }) => id === laneId)?.items;
    if (items === undefined || laneId === undefined) return;
    const places = Array.from({ length: items.count }, (_, at) => at);
    const now = places.find((at) => items.refs[at] === selected?.ref);
    const row = now === undefined ? 0 : items.rows[now]! + down;
    const ms = details === undefined ? this.shown().startMs : (details.startMs + details.endMs) / 2;
    const inRow = places.filter((at) => items.rows[at] === row);
    const next =
      across > 0
        ? inRow.find((at) => items.startsMs[at]! > (details?.startMs ?? -1))
        : across < 0
          ? inRow.findLast((at) => items.startsMs[at]! < (details?.startMs ?? Infinity))
          : nearest(inRow, (at) => Math.abs((items.startsMs[at]! + items.endsMs[at]!) / 2 - ms));
    if (next !== undefined) {
      this.chooseItem(laneId, items.refs[next]!);
      const range = { startMs: items.startsMs[next]!, endMs: items.endsMs[next]! };
      if (across !== 0) this.shown.set(showing(this.opened()!.range, this.shown(), range));
      return;
    }
    const lane = this.visible()[this.visible().findIndex(({ id }) => id === laneId) + down];
    const other = lanes?.find(({ id }) => id === lane?.id)?.items;
    if (down !== 0 && lane !== undefined && other !== undefined && other.count > 0) {
      this.chooseItem(lane.id, other.refs[0]!);
      this.view()?.reveal(lane.id);
    }
  }

  #keepLanes(part: Partial<LanePreferences>): void {
    const { order, hidden, folded } = { ...this.kept(), ...part };
    void this.#preferences.change({ lanes: { order: [...order], hidden: [...hidden], folded: [...folded] } });
  }

  /** The sting that the address names, where it names one. */
  #askedSting(): TimeRange | undefined {
    return this.#address.query()['sting'] === undefined ? undefined : this.#choice.selectedSting();
  }

  #sees({ startMs, endMs }: TimeRange): boolean {
    const shown = this.shown();
    return (
      startMs >= shown.startMs && endMs <= shown.endMs && endMs - startMs > (shown.endMs - shown.startMs) / 50
    );
  }
}

function nearest(places: readonly number[], distance: (at: number) => number): number | undefined {
  return places.reduce<number | undefined>(
    (best, at) => (best === undefined || distance(at) < distance(best) ? at : best),
    undefined,
  );
}
