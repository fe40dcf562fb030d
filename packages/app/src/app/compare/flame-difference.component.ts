import { OWNER_WORDS, msText } from '@nettle-patch/core';
import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { DifferenceBox } from '@nettle-patch/core';
import type { ItemCard } from '../../workers/analysis/item-details-types';
import { BoxGraphComponent, type BoxPlace, type PaintBox } from '../shared/box-graph.component';
import type { Palette } from '../shared/palette';
import { fillOf } from '../shared/patterns';

const MIN_TEXT = 30;
const MAX_DEPTHS = 60;

/**
 * The calls of both recordings as one flame graph. A box is as wide as what it took in both together; the hatched part
 * of it is the time before, the solid part the time after: half and half is no change.
 */
@Component({
  selector: 'np-flame-difference',
  imports: [RouterLink, BoxGraphComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="soft">
      @if (chosen(); as box) {
        <strong [textContent]="box.name"></strong>
        @if (box.beforeFunction !== undefined) {
          <a [routerLink]="['/source', beforeId()]" [queryParams]="{ function: box.beforeFunction }"
            >Source before</a
          >
        }
        @if (box.afterFunction !== undefined) {
          <a [routerLink]="['/source', afterId()]" [queryParams]="{ function: box.afterFunction }"
            >Source after</a
          >
          <a
            [routerLink]="['/calls', afterId()]"
            [queryParams]="{ function: box.afterFunction, show: 'flat' }"
            >Calls after</a
          >
        }
      } @else {
        Hatched: time before. Solid: time after. Half and half is no change; all hatched is gone, all solid is
        new.
      }
    </p>
    <np-box-graph
      label="Flame graph of the difference; the same as a table: Functions"
      [boxes]="boxes()"
      [maxDepth]="maxDepth"
      [current]="chosen()"
      [painter]="painter()"
      [card]="card()"
      (pointed)="pointed.set($event)"
      (choose)="chosen.set($event)"
    />
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      min-height: 0;
    }
    p {
      display: flex;
      gap: 12px;
      min-height: 22px;
      margin: 0 0 6px;
      font-size: 13px;
      overflow: hidden;
      white-space: nowrap;
      text-overflow: ellipsis;
    }
  `,
})
export class FlameDifferenceComponent {
  readonly boxes = input.required<readonly DifferenceBox[]>();

  protected readonly maxDepth = MAX_DEPTHS;
  /** Ids of the recordings. */
  readonly beforeId = input.required<string>();
  readonly afterId = input.required<string>();
  protected readonly pointed = signal<DifferenceBox | undefined>(undefined);
  /** The box whose function can be gone to. */
  protected readonly chosen = linkedSignal<readonly DifferenceBox[], DifferenceBox | undefined>({
    source: this.boxes,
    computation: () => undefined,
  });
  protected readonly card = computed((): ItemCard | undefined => {
    const box = this.pointed();
    if (box === undefined) return undefined;
    return {
      what: 'Calls on this path',
      title: box.name,
      place: box.place,
      facts: [
        { label: 'before', text: box.beforeFunction === undefined ? 'not there' : msText(box.beforeMs) },
        { label: 'after', text: box.afterFunction === undefined ? 'not there' : msText(box.afterMs) },
        { label: 'code', text: OWNER_WORDS[box.owner] },
      ],
    };
  });
  protected readonly painter = computed(() => painterOf(this.chosen()));
}

function painterOf(chosen: DifferenceBox | undefined) {
  return (context: CanvasRenderingContext2D, palette: Palette): PaintBox<DifferenceBox> => {
    const before = fillOf(context, 'hatch', palette.waiting, palette.waitingSoft);
    return (box, place) => {
      const { x, y, width, row } = place;
      const split = (width * box.beforeMs) / (box.beforeMs + box.afterMs);
      context.fillStyle = before;
      context.fillRect(x, y, split, row - 3);
      context.fillStyle = palette.handling;
      context.fillRect(x + split, y, width - split, row - 3);
      if (box === chosen) {
        context.strokeStyle = palette.nettle;
        context.lineWidth = 2;
        context.strokeRect(x + 1, y + 1, Math.max(1, width - 2), row - 5);
      }
      if (width >= MIN_TEXT) paintName(context, palette, box, place);
    };
  };
}

/** On a strip of its own, as the ground changes under it. */
function paintName(
  context: CanvasRenderingContext2D,
  palette: Palette,
  { name }: DifferenceBox,
  { x, y, width, row }: BoxPlace,
): void {
  context.save();
  context.beginPath();
  context.rect(x + 3, y + 2, Math.min(width - 8, context.measureText(name).width + 8), row - 7);
  context.fillStyle = palette.panel;
  context.fill();
  context.clip();
  context.fillStyle = palette.ink;
  context.fillText(name, x + 7, y + row / 2 + 3);
  context.restore();
}
