import { Directive, computed, inject, input, linkedSignal } from '@angular/core';
import type { PaneName } from '../../store/preferences';
import { PreferencesService } from '../services/preferences.service';

/** What the rest of a view keeps, however wide its pane is made. */
const MOST = '60%';

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
  /** The name that it is kept by. */
  readonly npPanes = input.required<PaneName>();
  /** On which side of the divider the pane is. */
  readonly paneSide = input<'start' | 'end'>('start');
  /** Its width as long as nobody has changed it. CSS pixels. */
  readonly paneWidth = input.required<number>();
  readonly #kept = computed(() => this.#preferences.now().panes[this.npPanes()]);
  /** Its width, also while it is being changed. CSS pixels. */
  readonly width = linkedSignal(() => this.#kept().width ?? this.paneWidth());
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
