import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { OpenedSting } from '../../../workers/analysis/analysis-results';
import { keepDrawn, prepareCanvas } from '../../shared/canvas';
import type { Palette } from '../../shared/palette';
import { layOutAnatomy, shapeAt, type Shape } from './anatomy-layout';
import { AnatomyPainter } from './anatomy-painter';
import type { ChosenPart } from '../chosen-bar.component';
import { AnatomyTableComponent } from './anatomy-table.component';

const INITIAL_WIDTH = 780;

/** The drawing of a sting taken apart, and the same as a table. */
@Component({
  selector: 'np-anatomy',
  imports: [AnatomyTableComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="drawing">
      <canvas
        #canvas
        role="img"
        aria-describedby="anatomy-table"
        [attr.aria-label]="label()"
        [style.height.px]="layout().height"
        (pointermove)="point($event)"
        (pointerleave)="pointed.set(undefined)"
        (click)="click()"
      ></canvas>
      @if (pointed(); as pointed) {
        <p class="hint" [style.left.px]="hintAt().x" [style.top.px]="hintAt().y">{{ pointed.words }}</p>
      }
    </div>
    <np-anatomy-table id="anatomy-table" [shown]="shown()" />
  `,
  styles: `
    .drawing {
      position: relative;
    }
    canvas {
      display: block;
      width: 100%;
    }
    .hint {
      position: absolute;
      z-index: 2;
      max-width: 340px;
      padding: 5px 9px;
      background: var(--ink);
      color: var(--paper);
      border-radius: 4px;
      font-size: 12.5px;
      pointer-events: none;
    }
  `,
})
export class AnatomyComponent {
  readonly shown = input.required<OpenedSting>();
  readonly selected = input<number>();
  readonly choose = output<number>();
  readonly part = output<ChosenPart>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  readonly #width = signal(INITIAL_WIDTH);
  protected readonly pointed = signal<Shape | undefined>(undefined);
  protected readonly hintAt = signal({ x: 0, y: 0 });
  protected readonly layout = computed(() => {
    const { anatomy, functions } = this.shown();
    return layOutAnatomy(anatomy, functions, this.#width());
  });
  protected readonly label = computed(() => `Anatomy of: ${this.shown().anatomy.sting.label}`);

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => [this.layout(), this.selected()],
      (palette) => this.#draw(palette),
      ({ width }) => this.#width.set(width),
    );
  }

  protected point(event: PointerEvent): void {
    const shape = shapeAt(this.layout(), event.offsetX, event.offsetY);
    this.pointed.set(shape);
    const x = Math.min(event.offsetX + 14, this.#width() - 350);
    this.hintAt.set({ x: Math.max(0, x), y: event.offsetY + 16 });
  }

  protected click(): void {
    const functionId = this.pointed()?.functionId;
    if (functionId !== undefined) this.choose.emit(functionId);
    const shape = this.pointed();
    if (shape === undefined) return;
    const { scale } = this.layout();
    const range = { startMs: scale.ms(shape.x), endMs: scale.ms(shape.x + shape.width) };
    this.part.emit({ words: shape.words, range });
  }

  #draw(palette: Palette): void {
    const { sting } = this.shown().anatomy;
    const { context } = prepareCanvas(this.canvas().nativeElement);
    new AnatomyPainter(context, {
      palette,
      selected: this.selected(),
      answered: sting.interaction !== undefined,
      budgetMs: sting.budgetMs,
    }).paint(this.layout());
  }
}
