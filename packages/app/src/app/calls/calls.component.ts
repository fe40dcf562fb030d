import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { debounceTime } from 'rxjs';
import type {
  CallRow,
  CallsMode,
  CallsPage,
  FunctionDetails,
  NamedBox,
} from '../../workers/analysis/queries/call-queries';
import type { LensState } from '../lens/lens-state';
import { LensToolsComponent } from '../lens/lens-tools.component';
import { AddressService } from '../services/address.service';
import { LensService } from '../services/lens.service';
import { RecordingService } from '../services/recording.service';
import { OpeningComponent } from '../shared/opening.component';
import { formatPercent } from '../shared/format';
import { CallTableComponent } from './call-table.component';
import { FlameComponent } from './flame.component';
import { FunctionDetailsComponent } from './function-details.component';
import type { CallColumn } from './sort-rows';

type Shown = CallsMode | 'flame';

const SHOWN: readonly Shown[] = ['top', 'bottom', 'flat', 'flame'];
/** Boxes narrower than this share of the width are not worth drawing. */
const MIN_BOX = 1 / 1600;
const TYPING_MS = 150;

/** Who called what, how often, and what it took: as trees, as a table, as a flame graph. */
@Component({
  selector: 'np-calls',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    CallTableComponent,
    FlameComponent,
    FunctionDetailsComponent,
    OpeningComponent,
    LensToolsComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './calls.component.html',
  styleUrl: './calls.component.scss',
})
export class CallsComponent {
  readonly #recordings = inject(RecordingService);
  readonly #address = inject(AddressService);
  readonly #lens = inject(LensService);
  protected readonly lens = this.#lens.lens;
  readonly id = input.required<string>();
  /** How calls are shown, from the address. */
  readonly show = input<string>();
  /** Function that is selected, from the address. */
  readonly function = input<string>();

  protected readonly opened = this.#recordings.openedAs(this.id);
  protected readonly shown = computed<Shown>(() => SHOWN.find((one) => one === this.show()) ?? 'top');
  readonly #text = toSignal(toObservable(computed(() => this.lens().text)).pipe(debounceTime(TYPING_MS)), {
    initialValue: '',
  });
  readonly #expanded = signal<ReadonlySet<string>>(new Set());
  readonly #root = signal<number | undefined>(undefined);
  protected readonly sort = signal<CallColumn>('totalMs');
  protected readonly page = signal<CallsPage | undefined>(undefined);
  readonly #hitShare = signal<number | undefined>(undefined);
  protected readonly boxes = signal<readonly NamedBox[]>([]);
  protected readonly selected = signal<{ key: string; functionId: number } | undefined>(undefined);
  protected readonly details = signal<FunctionDetails | undefined>(undefined);
  protected readonly zoomed = computed(() => this.#root() !== undefined);
  protected readonly hitWords = computed(() => {
    const share = this.#hitShare();
    return share === undefined ? '' : `${formatPercent(share)} of the time`;
  });

  constructor() {
    effect(() => void this.#recordings.openStored(this.id()));
    effect(() => {
      this.lens();
      this.shown();
      untracked(() => this.#root.set(undefined));
    });
    effect(() => {
      const functionId = Number(this.function() ?? Number.NaN);
      if (!Number.isInteger(functionId) || untracked(this.selected)?.functionId === functionId) return;
      this.selected.set({ key: this.shown() === 'flat' ? String(functionId) : '', functionId });
    });
    effect(() => void this.#load());
    effect(() => void this.#loadDetails());
  }

  protected change(lens: Partial<LensState>): void {
    this.#lens.change(lens);
  }

  protected setShown(show: Shown): void {
    this.#expanded.set(new Set());
    this.sort.set(show === 'top' ? 'totalMs' : 'selfMs');
    void this.#address.change({ show: show === 'top' ? null : show });
  }

  /** Opens a line that is shown closed, and closes one that is shown open, however often that is asked meanwhile. */
  protected toggle({ key, hasChildren, isOpen }: CallRow): void {
    if (!hasChildren) return;
    const expanded = new Set(this.#expanded());
    if (isOpen) expanded.delete(key);
    else expanded.add(key);
    this.#expanded.set(expanded);
  }

  protected select({ key, functionId }: { key: string; functionId: number }): void {
    this.selected.set({ key, functionId });
    void this.#address.change({ function: functionId }, true);
  }

  /** To the source of the function that is selected. */
  protected toSource(functionId: number): void {
    void this.#address.go('source', this.id(), { function: functionId });
  }

  protected zoom(node: number | undefined): void {
    this.#root.set(node);
  }

  async #load(): Promise<void> {
    const [opened, lens, shown, text] = [this.opened(), this.#lens.core(), this.shown(), this.#text()];
    const [expanded, root] = [this.#expanded(), this.#root()];
    if (opened === undefined) return;
    if (shown === 'flame') {
      const flame = await this.#recordings.flame(lens, MIN_BOX, root, text);
      if (flame === undefined || this.shown() !== 'flame') return;
      this.boxes.set(flame.boxes);
      this.#hitShare.set(flame.hitShare);
      return;
    }
    const page = await this.#recordings.calls(lens, shown, [...expanded], text);
    if (page === undefined || this.shown() !== shown) return;
    this.page.set(page);
    this.#hitShare.set(page.hitShare);
    const first = page.rows[0];
    if (this.selected() === undefined && first !== undefined) this.select(first);
  }

  async #loadDetails(): Promise<void> {
    const [opened, lens, selected] = [this.opened(), this.#lens.core(), this.selected()];
    if (opened === undefined || selected === undefined) return;
    const details = await this.#recordings.functionDetails(lens, selected.functionId);
    if (this.selected()?.functionId === selected.functionId) this.details.set(details);
  }
}
