import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { IconComponent } from '../shared/icon.component';
import { PanesDirective } from './panes.directive';

const LEAST = 180;
const MOST = 900;
const STEP = 16;
const LARGE_STEP = 64;

/**
 * Stands between a pane and the rest of a view, as a separator whose value is the width of the pane (ARIA, window
 * splitter): a drag or the arrow keys change it, Enter or its button hide it, a double click makes it as wide as usual.
 */
@Component({
  selector: 'np-pane-divider',
  imports: [MatButtonModule, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div
      class="grip"
      role="separator"
      aria-orientation="vertical"
      tabindex="0"
      [attr.aria-label]="'Width of: ' + label()"
      [attr.aria-valuemin]="0"
      [attr.aria-valuemax]="MOST"
      [attr.aria-valuenow]="panes.isHidden() ? 0 : panes.width()"
      [attr.aria-valuetext]="panes.isHidden() ? 'hidden' : panes.width() + ' pixels'"
      (pointerdown)="down($event)"
      (pointermove)="drag($event)"
      (pointerup)="up()"
      (pointercancel)="cancel()"
      (dblclick)="panes.keep({ width: undefined, isHidden: false })"
      (keydown)="keyDown($event)"
    ></div>
    <button
      type="button"
      mat-icon-button
      [attr.aria-label]="(panes.isHidden() ? 'Show: ' : 'Hide: ') + label()"
      [attr.aria-expanded]="!panes.isHidden()"
      (click)="panes.keep({ isHidden: !panes.isHidden() })"
    >
      <np-icon [name]="pointsLeft() ? 'previous' : 'next'" />
    </button>
  `,
  styles: `
    :host {
      position: relative;
      width: 9px;
      z-index: 1;
    }
    .grip {
      position: absolute;
      inset: 0;
      cursor: col-resize;
      touch-action: none;
      background: linear-gradient(to right, transparent 4px, var(--line) 4px 5px, transparent 5px);
    }
    .grip:hover,
    .grip:focus-visible {
      background: linear-gradient(to right, transparent 3px, var(--nettle) 3px 6px, transparent 6px);
    }
    button {
      --mat-icon-button-state-layer-size: 24px;
      position: absolute;
      bottom: 8px;
      left: -8px;
      width: 24px;
      height: 24px;
      padding: 0;
      background: var(--panel);
      border: 1px solid var(--edge);
    }
    np-icon {
      font-size: 12px;
    }
  `,
})
export class PaneDividerComponent {
  protected readonly MOST = MOST;
  protected readonly panes = inject(PanesDirective);
  /** What the pane holds: "list of stings". */
  readonly label = input.required<string>();
  protected readonly pointsLeft = computed(
    () => (this.panes.paneSide() === 'start') !== this.panes.isHidden(),
  );
  #from: { readonly x: number; readonly width: number } | undefined;

  protected down(event: PointerEvent): void {
    if (event.button !== 0 || this.panes.isHidden()) return;
    (event.target as Element).setPointerCapture(event.pointerId);
    this.#from = { x: event.clientX, width: this.panes.width() };
  }

  protected drag(event: PointerEvent): void {
    if (this.#from === undefined) return;
    const outwards = (event.clientX - this.#from.x) * (this.panes.paneSide() === 'start' ? 1 : -1);
    this.panes.width.set(within(this.#from.width + outwards));
  }

  protected up(): void {
    if (this.#from !== undefined && this.panes.width() !== this.#from.width) {
      this.panes.keep({ width: this.panes.width() });
    }
    this.#from = undefined;
  }

  protected cancel(): void {
    if (this.#from !== undefined) this.panes.width.set(this.#from.width);
    this.#from = undefined;
  }

  protected keyDown(event: KeyboardEvent): void {
    const width = this.panes.width();
    const step = (event.shiftKey ? LARGE_STEP : STEP) * (this.panes.paneSide() === 'start' ? 1 : -1);
    const widths: Readonly<Record<string, number>> = {
      ArrowLeft: width - step,
      ArrowRight: width + step,
      Home: LEAST,
      End: MOST,
    };
    const wanted = widths[event.key];
    if (event.key === 'Enter') this.panes.keep({ isHidden: !this.panes.isHidden() });
    else if (wanted !== undefined && !this.panes.isHidden()) this.panes.keep({ width: within(wanted) });
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
}

const within = (width: number) => Math.round(Math.min(MOST, Math.max(LEAST, width)));
