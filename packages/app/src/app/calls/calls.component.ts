import { percentText, type TimeRange } from '@nettle-patch/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Sort } from '@angular/material/sort';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatMenuModule } from '@angular/material/menu';
import type { CallRow, CallsMode, NamedBox } from '../../workers/analysis/queries/call-queries';
import type { LensState } from '../lens/lens-state';
import { LensToolsComponent } from '../lens/lens-tools.component';
import { AddressService } from '../services/address.service';
import { ChosenFunctionService } from '../services/chosen-function.service';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { PaneDividerComponent } from '../panes/pane-divider.component';
import { PanesDirective } from '../panes/panes.directive';
import { ReportService } from '../reports/report.service';
import { IconComponent } from '../shared/icon.component';
import { OpeningComponent } from '../shell/opening.component';
import { RangeSumsComponent } from '../sums/range-sums.component';
import { CallTableComponent } from './call-table.component';
import { FlameComponent } from './flame.component';
import { FunctionDetailsComponent } from './function-details.component';
import { itemParameter } from '../timeline/item-parameter';
import { readSort, usualSort } from './call-order';
import { readBox, readRows, rowsText } from './opened-rows';
import { incrementalRender } from '../shared/incremental-render';
import { answerTo } from '../shared/answer-to';
import { firstValueFrom } from 'rxjs';

type Shown = CallsMode | 'flame';

const SHOWN: readonly Shown[] = ['top', 'bottom', 'flat', 'flame'];
/** Boxes narrower than this share of the width are not worth drawing. */
const MIN_BOX = 1 / 1600;

/** Who called what, how often, and what it took: as trees, as a table, as a flame graph. */
@Component({
  selector: 'np-calls',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    CallTableComponent,
    MatMenuModule,
    IconComponent,
    FlameComponent,
    FunctionDetailsComponent,
    OpeningComponent,
    PaneDividerComponent,
    PanesDirective,
    LensToolsComponent,
    RangeSumsComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './calls.component.html',
  styleUrl: './calls.component.scss',
})
export class CallsComponent {
  readonly #recordings = inject(RecordingService);
  readonly #address = inject(AddressService);
  readonly #chosen = inject(ChosenFunctionService);
  readonly #lens = inject(LensService);
  readonly #reports = inject(ReportService);
  private readonly table = viewChild(CallTableComponent);
  protected readonly lens = this.#lens.lens;
  readonly id = input.required<string>();
  /** How calls are shown, from the address. */
  readonly show = input<string>();

  protected readonly opened = this.#recordings.openedAs(this.id);
  /** How much of the tools is there: built part by part, so that none of them holds up an input. */
  protected readonly built = incrementalRender(2);
  protected readonly shown = computed<Shown>(() => SHOWN.find((one) => one === this.show()) ?? 'top');
  /** Keys of the lines that are open, and the box of the flame graph that is as wide as all, from the address. */
  readonly rows = input<string>();
  readonly box = input<string>();
  readonly #expanded = linkedSignal((): ReadonlySet<string> => new Set(readRows(this.rows())));
  readonly #root = computed(() => readBox(this.box()));
  /** The order of the table, in the address where it is not the usual one: "-selfMs" for the most first. */
  readonly order = input<string>();
  protected readonly sort = computed(() => readSort(this.order()) ?? usualSort(this.shown()));
  readonly #asked = computed(() =>
    this.opened() === undefined
      ? undefined
      : { lens: this.#lens.core(), text: this.lens().text, shown: this.shown() },
  );
  protected readonly page = answerTo(
    computed(() => {
      const [asked, expanded] = [this.#asked(), [...this.#expanded()]];
      return asked === undefined || asked.shown === 'flame'
        ? undefined
        : { ...asked, mode: asked.shown, expanded, sort: this.sort() };
    }),
    ({ lens, mode, expanded, text, sort }) => this.#recordings.ask('calls', lens, mode, expanded, text, sort),
  );
  readonly #flame = answerTo(
    computed(() => {
      const [asked, root] = [this.#asked(), this.#root()];
      return asked?.shown === 'flame' ? { ...asked, root } : undefined;
    }),
    ({ lens, root, text }) => this.#recordings.ask('flame', lens, MIN_BOX, root, text),
  );
  protected readonly boxes = computed((): readonly NamedBox[] => this.#flame()?.boxes ?? []);
  protected readonly selected = signal<{ key: string; functionId: number } | undefined>(undefined);
  protected readonly details = answerTo(
    computed(() => {
      const [opened, lens, functionId] = [this.opened(), this.#lens.core(), this.selected()?.functionId];
      return opened === undefined || functionId === undefined ? undefined : { lens, functionId };
    }),
    ({ lens, functionId }) => this.#recordings.ask('functionDetails', lens, functionId),
  );
  /** Whether the sum of the lens stands beside the calls, in place of the function that is selected. */
  protected readonly isSummed = signal(false);
  protected readonly summed = computed((): TimeRange => this.lens().range ?? this.opened()!.range);
  protected readonly path = computed(() => this.#flame()?.path ?? []);
  protected readonly hitWords = computed(() => {
    const share = (this.#flame() ?? this.page())?.hitShare;
    return share === undefined ? '' : `${percentText(share)} of the time`;
  });
  protected readonly hasHits = computed(() => this.page()?.rows.some(({ isHit }) => isHit) === true);

  constructor() {
    effect(() => void this.#recordings.openStored(this.id()));
    effect(() => {
      const functionId = this.#chosen.functionId();
      if (functionId === undefined || untracked(this.selected)?.functionId === functionId) return;
      this.selected.set({ key: this.shown() === 'flat' ? String(functionId) : '', functionId });
    });
    effect(() => {
      const first = this.page()?.rows[0];
      if (first !== undefined && untracked(this.selected) === undefined) this.selected.set(first);
    });
  }

  /** Copies the table that is shown. */
  protected copy(): void {
    this.#reports.copy(this.table()!.text(), 'Copied as text.');
  }

  protected change(lens: Partial<LensState>): void {
    this.#lens.change(lens);
  }

  protected setShown(show: Shown): void {
    void this.#address.change({ show: show === 'top' ? null : show, order: null, rows: null, box: null });
  }

  protected sortBy({ active, direction }: Sort): void {
    void this.#address.change({ order: direction === 'desc' ? `-${active}` : active }, true);
  }

  /** Opens a line that is shown closed, and closes one that is shown open, however often that is asked meanwhile. */
  protected toggle({ key, hasChildren, isOpen }: CallRow): void {
    if (!hasChildren) return;
    const expanded = new Set(this.#expanded());
    if (isOpen) expanded.delete(key);
    else expanded.add(key);
    this.#expand(expanded);
  }

  /** Opens the lines that lead to what took most time, and selects the last of them. */
  protected async openDearest(): Promise<void> {
    const { keys, functionId } = await firstValueFrom(
      this.#recordings.ask('dearestPath', this.#lens.core()),
      { defaultValue: { keys: [], functionId: undefined } },
    );
    const key = keys.at(-1);
    if (key === undefined || functionId === undefined) return;
    this.#expand(new Set([...this.#expanded(), ...keys]));
    this.select({ key, functionId });
  }

  /** Selects the next line that matches the text, or the one before. */
  protected toHit(step: 1 | -1): void {
    const rows = this.page()?.rows ?? [];
    const hits = rows.filter(({ isHit }) => isHit);
    const at = hits.findIndex(({ key }) => key === this.selected()?.key);
    const next = hits[at < 0 ? (step === 1 ? 0 : hits.length - 1) : (at + step + hits.length) % hits.length];
    if (next !== undefined) this.select(next);
  }

  protected toInput(ref: number): void {
    void this.#address.go('timeline', this.id(), { thing: itemParameter('inputs', ref), show: null });
  }

  protected toRedraws(): void {
    void this.#address.go('timeline', this.id(), { show: 'redraws' });
  }

  protected select({ key, functionId }: { key: string; functionId: number }): void {
    this.isSummed.set(false);
    this.selected.set({ key, functionId });
    this.#chosen.choose(functionId);
  }

  /** To the source of the function that is selected. */
  protected toSource(functionId: number): void {
    void this.#address.go('source', this.id(), { function: functionId });
  }

  protected zoom(node: number | undefined): void {
    void this.#address.change({ box: node ?? null });
  }

  #expand(rows: ReadonlySet<string>): void {
    this.#expanded.set(rows);
    void this.#address.change({ rows: rowsText(rows) }, true);
  }
}
