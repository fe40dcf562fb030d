import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { OWNER_WORDS, countText, durationText, isTime, itemStyleCode } from '@nettle-patch/core';
import type { ItemCard } from '../../workers/analysis/item-details-types';
import type { NamedBox, NamedFlame } from '../../workers/analysis/queries/call-queries';
import { RecordingService } from '../services/recording.service';
import { BoxGraphComponent, type PaintBox } from '../shared/box-graph.component';
import { ChoiceComponent, type ChoiceOption } from '../shared/choice.component';
import { formatWeight } from '../shared/format';
import type { Palette } from '../shared/palette';
import { lookFills, type Fill } from '../timeline/style-fills';

const MIN_TEXT = 26;
/** From this height on a row has a second line of text: how long. Pixels. */
const TWO_LINES = 46;
/** Of the ground under the text of a box that is drawn with a texture. Pixels. */
const LABEL_HEIGHT = 36;
/** Mean width of a letter. Pixels. */
const LETTER = 6.2;

/** Calls as boxes as wide as their time, callees under their caller. A click shows a function, a double click widens it. */
@Component({
  selector: 'np-flame',
  imports: [BoxGraphComponent, ChoiceComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head soft">
      @if (path().length > 0) {
        <nav aria-label="Callers of what is shown">
          <button type="button" class="name-button" (click)="zoom.emit(undefined)">All calls</button>
          @for (one of path(); track one.node; let last = $last) {
            <span aria-hidden="true">›</span>
            @if (last) {
              <span aria-current="true" [textContent]="one.name"></span>
            } @else {
              <button
                type="button"
                class="name-button"
                [textContent]="one.name"
                (click)="zoom.emit(one.node)"
              ></button>
            }
          }
        </nav>
      } @else {
        <span>Each box is as wide as its time. Double-click widens one.</span>
      }
      <np-choice
        title="Colour"
        label="Colour of the boxes"
        [options]="colourings()"
        [value]="colouring()"
        (choose)="colouring.set($event)"
      />
    </div>
    <np-box-graph
      label="Flame graph; the same as a tree: From the top"
      [boxes]="boxes()"
      [current]="current()"
      [painter]="painter()"
      [card]="card()"
      (pointed)="pointed.set($event)"
      (choose)="take($event)"
      (zoom)="zoom.emit($event?.node)"
    />
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      min-width: 0;
    }
    .head {
      display: flex;
      align-items: center;
      justify-content: space-between;
      min-height: 38px;
      padding: 0 18px;
      font-size: 13px;
      overflow: hidden;
      white-space: nowrap;
    }
    nav {
      display: flex;
      gap: 6px;
      min-width: 0;
      overflow: hidden;
    }
    np-box-graph {
      padding: 0 18px;
    }
  `,
})
export class FlameComponent {
  readonly boxes = input.required<readonly NamedBox[]>();
  readonly selected = input<number>();
  /** The callers of the box that is as wide as all, from the outermost down to itself; empty where all calls are. */
  readonly path = input<NamedFlame['path']>([]);
  readonly choose = output<NamedBox>();
  readonly zoom = output<number | undefined>();

  readonly #unit = inject(RecordingService).unit;
  protected readonly pointed = signal<NamedBox | undefined>(undefined);
  protected readonly current = signal<NamedBox | undefined>(undefined);
  protected readonly colouring = signal<Colouring>('kind');
  protected readonly colourings = computed(() => {
    const isCounted = this.boxes().some(({ count }) => count > 0);
    return COLOURINGS.filter(({ value }) => isCounted || value !== 'calls');
  });
  protected readonly card = computed((): ItemCard | undefined => {
    const box = this.pointed();
    if (box === undefined) return undefined;
    const { name, place, totalMs, selfMs, count, owner } = box;
    return {
      what: 'Calls on this path',
      title: name,
      place,
      facts: [
        { label: 'total', text: this.#length(totalMs) },
        { label: 'self', text: this.#length(selfMs) },
        ...(count > 0 ? [{ label: 'calls', text: countText(count) }] : []),
        { label: 'code', text: OWNER_WORDS[owner] },
      ],
    };
  });
  protected readonly painter = computed(() => {
    const mostCalls = this.boxes().reduce((most, { count }) => Math.max(most, count), 1);
    const look = { selected: this.selected(), colouring: this.colouring(), mostCalls };
    return painterOf(look, (box) => this.#length(box.totalMs));
  });

  protected take(box: NamedBox): void {
    this.current.set(box);
    this.choose.emit(box);
  }

  #length(value: number): string {
    const unit = this.#unit();
    return isTime(unit) ? durationText(value) : formatWeight(value, unit);
  }
}

type Colouring = 'kind' | 'owner' | 'calls';

const COLOURINGS: readonly ChoiceOption<Colouring>[] = [
  { value: 'kind', words: 'by kind of work' },
  { value: 'owner', words: 'by whose code' },
  { value: 'calls', words: 'by calls' },
];
/** What is called once is as pale as this. */
const PALEST = 0.12;

function fillsOf(
  context: CanvasRenderingContext2D,
  palette: Palette,
  colouring: Colouring,
  mostCalls: number,
) {
  const fills = lookFills(context, palette);
  const owners = { own: palette.scriptOwn, library: palette.scriptLibrary, browser: palette.other };
  return ({ style, owner, count }: NamedBox): { fill: Fill; strength: number } => {
    if (colouring === 'kind') return { fill: fills[itemStyleCode(style)]!, strength: 1 };
    if (colouring === 'owner') return { fill: owners[owner], strength: 1 };
    const share = Math.log(1 + count) / Math.log(1 + mostCalls);
    return { fill: palette.scriptOwn, strength: PALEST + (1 - PALEST) * share };
  };
}

interface FlameLook {
  readonly selected: number | undefined;
  readonly colouring: Colouring;
  /** Of the function that was called most. */
  readonly mostCalls: number;
}

function painterOf({ selected, colouring, mostCalls }: FlameLook, lengthOf: (box: NamedBox) => string) {
  return (context: CanvasRenderingContext2D, palette: Palette): PaintBox<NamedBox> => {
    const fillOf = fillsOf(context, palette, colouring, mostCalls);
    return (box, { x, y, width, row }) => {
      const own = box.owner === 'own';
      const { fill, strength } = fillOf(box);
      context.globalAlpha = strength;
      context.fillStyle = fill;
      context.fillRect(x, y, width, own ? row - 2 : row - 6);
      context.globalAlpha = 1;
      if (box.functionId === selected || box.isHit) {
        context.strokeStyle = box.functionId === selected ? palette.ink : palette.nettle;
        context.lineWidth = 2;
        context.strokeRect(x + 1, y + 1, Math.max(1, width - 2), row - 4);
      }
      if (width < MIN_TEXT) return;
      const isTall = row >= TWO_LINES;
      const length = isTall ? lengthOf(box) : '';
      context.save();
      context.beginPath();
      context.rect(x, y, width - 4, row);
      context.clip();
      if (box.owner === 'browser' && colouring === 'kind') {
        context.fillStyle = palette.panel;
        const letters = Math.max(box.name.length, length.length);
        const height = Math.min(LABEL_HEIGHT, row - 10);
        context.fillRect(
          x + 2,
          y + (row - height) / 2 - 2,
          Math.min(width - 4, letters * LETTER + 6),
          height,
        );
      }
      context.fillStyle = own && strength > 0.6 ? palette.onScriptOwn : palette.ink;
      const middle = y + row / 2 + 3;
      context.fillText(box.name, x + 5, isTall ? middle - 8 : middle);
      if (isTall) context.fillText(length, x + 5, middle + 9);
      context.restore();
    };
  };
}
