import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { BreakdownPart } from '@nettle-patch/core';

/** The hue and the pattern of a kind of work, beside its name. */
@Component({
  selector: 'np-part-swatch',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { 'aria-hidden': 'true', '[class]': 'part()' },
  template: '',
  styles: `
    :host {
      display: inline-block;
      width: 11px;
      height: 11px;
      margin-right: 8px;
      background: var(--other);
    }
    :host(.scriptOwnMs) {
      background: var(--script-own);
    }
    :host(.scriptLibraryMs) {
      background: var(--script-library);
    }
    :host(.layoutMs) {
      background: repeating-linear-gradient(45deg, var(--layout) 0 2px, var(--layout-soft) 2px 4px);
    }
    :host(.styleMs) {
      background: radial-gradient(var(--style) 1.2px, var(--style-soft) 1.4px) 0 0 / 4px 4px;
    }
    :host(.paintMs) {
      background: repeating-linear-gradient(0deg, var(--paint) 0 2px, var(--paint-soft) 2px 4px);
    }
    :host(.drawingMs) {
      background: var(--drawing);
    }
    :host(.collectionMs) {
      background:
        repeating-linear-gradient(45deg, var(--collection) 0 1.5px, transparent 1.5px 4px),
        repeating-linear-gradient(-45deg, var(--collection) 0 1.5px, var(--collection-soft) 1.5px 4px);
    }
    :host(.dialogMs) {
      background: repeating-linear-gradient(0deg, var(--waiting) 0 2px, var(--waiting-soft) 2px 4px);
    }
    :host(.idleMs) {
      background: none;
      border-bottom: 1.5px solid var(--soft);
    }
  `,
})
export class PartSwatchComponent {
  readonly part = input.required<BreakdownPart>();
}
