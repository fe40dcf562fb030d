import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { shortPlace } from '@nettle-patch/core';
import type { ItemCard } from '../../workers/analysis/item-details-types';

/** A card, where the pointer is, and how wide the drawing is. CSS pixels. */
export interface PlacedCard {
  readonly card: ItemCard;
  readonly x: number;
  readonly y: number;
  readonly roomWidth: number;
}

/** Room below a drawing that is no higher than a line: a card always stands under the pointer there. */
export const ROOM_BELOW_LINE = 400;

const BESIDE_PIXELS = 14;
const WIDTH = 300;
/** So much room a card needs below the pointer; where there is less, it stands above. */
const HEIGHT = 150;

/** Tells what is under the pointer in a drawing; lies over the drawing, in an element that is placed relatively. */
@Component({
  selector: 'np-hover-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    'aria-hidden': 'true',
    '[style.left.px]': 'left()',
    '[style.top.px]': 'top()',
    '[style.translate]': 'isAbove() ? "0 -100%" : "0"',
    '[style.max-width.px]': 'width',
  },
  template: `
    <p class="soft">{{ card().what }}</p>
    <p class="title" [textContent]="card().title"></p>
    @if (card().place !== '') {
      <p class="figure soft" [textContent]="place()"></p>
    }
    <dl>
      @for (fact of card().facts; track $index) {
        <dt>{{ fact.label }}</dt>
        <dd [class.over]="fact.over" [textContent]="fact.text"></dd>
      }
    </dl>
  `,
  styles: `
    :host {
      position: absolute;
      z-index: 3;
      padding: 6px 10px 8px;
      background: var(--panel);
      border: 1px solid var(--edge);
      border-radius: 4px;
      font-size: 12.5px;
      pointer-events: none;
      overflow-wrap: anywhere;
    }
    .title {
      font-weight: 700;
    }
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 1px 10px;
      margin: 4px 0 0;
    }
    dt {
      color: var(--soft);
    }
    dd {
      margin: 0;
    }
  `,
})
export class HoverCardComponent {
  readonly card = input.required<ItemCard>();
  /** Where the pointer is, and the room there is. CSS pixels. */
  readonly x = input.required<number>();
  readonly y = input.required<number>();
  readonly roomWidth = input.required<number>();
  readonly roomHeight = input.required<number>();

  /** "above" where it stands on top of the drawing, whatever room there is. */
  readonly placement = input<'auto' | 'above'>('auto');

  protected readonly width = WIDTH;
  protected readonly place = computed(() => shortPlace(this.card().place));
  protected readonly isAbove = computed(
    () => this.placement() === 'above' || (this.roomHeight() - this.y() < HEIGHT && this.y() > HEIGHT),
  );
  protected readonly left = computed(() =>
    Math.max(0, Math.min(this.x() + BESIDE_PIXELS, this.roomWidth() - WIDTH - 2)),
  );
  protected readonly top = computed(() => this.y() + (this.isAbove() ? -BESIDE_PIXELS : BESIDE_PIXELS));
}
