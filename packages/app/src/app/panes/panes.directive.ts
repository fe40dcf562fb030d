import { DOCUMENT, Directive, computed, inject, input, linkedSignal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { fromEvent, map } from 'rxjs';
import type { PaneName } from '../../store/preferences';
import { PreferencesService } from '../services/preferences.service';

/** What the rest of a view keeps, however wide its pane is made. */
const MOST = '60%';
/** A pane that nobody has changed grows with a wide window: its share of it, and where that ends, in CSS pixels. */
const SHARE = 0.21;
const MOST_BY_ITSELF = 420;

/**
 * Two parts of a view side by side, one of which can be made wider, narrower or hidden: its columns are the pane, the
 * divider and the rest, or the other way round. What was chosen is kept.
 */
@Directive({
  selector: '[npPanes]',
  exportAs: 'npPanes',
  host: { '[style.grid-template-columns]': 'columns()' },
})
export class PanesDirective {
  readonly #preferences = inject(PreferencesService);
  readonly #window = inject(DOCUMENT).defaultView!;
  readonly #windowWidth = toSignal(
    fromEvent(this.#window, 'resize').pipe(map(() => this.#window.innerWidth)),
    {
      initialValue: this.#window.innerWidth,
    },
  );
  /** The name that it is kept by. */
  readonly npPanes = input.required<PaneName>();
  /** On which side of the divider the pane is. */
  readonly paneSide = input<'start' | 'end'>('start');
  /** Its least width as long as nobody has changed it. CSS pixels. */
  readonly paneWidth = input.required<number>();
  readonly #kept = computed(() => this.#preferences.now().panes[this.npPanes()]);
  readonly #usual = computed(() => {
    const share = Math.min(MOST_BY_ITSELF, Math.round(this.#windowWidth() * SHARE));
    return Math.max(this.paneWidth(), share);
  });
  /** Its width, also while it is being changed. CSS pixels. */
  readonly width = linkedSignal(() => this.#kept().width ?? this.#usual());
  readonly isHidden = computed(() => this.#kept().isHidden);
  protected readonly columns = computed(() => {
    const rest = 'minmax(0, 1fr)';
    const pane = `min(${this.width()}px, ${MOST})`;
    const columns = this.isHidden() ? ['auto', rest] : [pane, 'auto', rest];
    return (this.paneSide() === 'start' ? columns : columns.reverse()).join(' ');
  });

  /** Keeps what the pane is now. */
  keep(part: { readonly width?: number | undefined; readonly isHidden?: boolean }): void {
    const panes = this.#preferences.now().panes;
    const changed = { ...panes[this.npPanes()], ...part };
    void this.#preferences.change({ panes: { ...panes, [this.npPanes()]: changed } });
  }
}
