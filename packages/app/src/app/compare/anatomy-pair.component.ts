import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, viewChild } from '@angular/core';
import {
  msText,
  BREAKDOWN_PARTS,
  itemStyleCode,
  type BreakdownPart,
  type ComparedAnatomies,
  type ItemStyle,
  type TypicalAnatomy,
  durationText,
  numberText,
} from '@nettle-patch/core';
import { BOLD_FONT, FIGURE_FONT, TEXT_FONT } from '../shared/canvas-fonts';
import { keepDrawn, prepareCanvas } from '../shared/canvas';
import { PHASE_COLOURS, type Palette } from '../shared/palette';
import { TimeScale, axisTicks } from '../shared/time-scale';
import { lookFills } from '../timeline/style-fills';
import { partWords } from '../shared/words';

const LEFT = 62;
const RIGHT = 74;
const SIDE_TOP = { before: 18, after: 92 };
const PHASE_HEIGHT = 20;
const PARTS_HEIGHT = 26;
const AXIS_Y = 158;
/** Room that a figure of the axis takes. Pixels. */
const AXIS_WORDS = 36;
const MIN_WORDS = 16;
const STYLE_OF: Partial<Record<BreakdownPart, ItemStyle>> = {
  scriptOwnMs: 'own',
  scriptLibraryMs: 'library',
  styleMs: 'style',
  layoutMs: 'layout',
  paintMs: 'paint',
  drawingMs: 'drawing',
  collectionMs: 'collection',
  dialogMs: 'dialog',
};
/** Less is not worth a line. Milliseconds. */
const MIN_MS = 0.05;

interface Line {
  readonly words: string;
  readonly before: string;
  readonly after: string;
}

/** The middle attempt before and the one after, on one axis from their input: phases, and the kinds of work in each. */
@Component({
  selector: 'np-anatomy-pair',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas #canvas role="img" [attr.aria-label]="words()"></canvas>
    <table>
      <thead>
        <tr>
          <th scope="col">Middle attempt</th>
          <th scope="col" class="figure">before</th>
          <th scope="col" class="figure">after</th>
        </tr>
      </thead>
      <tbody>
        @for (line of lines(); track line.words) {
          <tr>
            <th scope="row">{{ line.words }}</th>
            <td class="figure">{{ line.before }}</td>
            <td class="figure">{{ line.after }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    canvas {
      display: block;
      width: 100%;
      height: 182px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      font-size: 13px;
      margin-top: 6px;
    }
    th {
      text-align: left;
      font-weight: 400;
    }
    thead th {
      color: var(--soft);
    }
    th,
    td {
      padding: 2px 12px 2px 0;
      border-bottom: 1px solid var(--line);
    }
    .figure {
      text-align: right;
    }
  `,
})
export class AnatomyPairComponent {
  readonly pair = input.required<ComparedAnatomies>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly words = computed(() => {
    const { label, before, after } = this.pair();
    const felt = (side: TypicalAnatomy | undefined) =>
      side === undefined ? 'not done' : durationText(side.feltMs);
    return `${label}: before ${felt(before)}, after ${felt(after)}; the parts as a table below`;
  });
  protected readonly lines = computed((): Line[] => {
    const { before, after } = this.pair();
    const cell = (side: TypicalAnatomy | undefined, ms: (side: TypicalAnatomy) => number) =>
      side === undefined ? '–' : msText(ms(side));
    const phases = [0, 1, 2].map((at) => {
      const lengthMs = (side: TypicalAnatomy) => side.phases[at]!.endMs - side.phases[at]!.startMs;
      const words = (before ?? after)?.phases[at]?.name ?? '';
      return { words, before: cell(before, lengthMs), after: cell(after, lengthMs) };
    });
    const parts = BREAKDOWN_PARTS.filter(
      (part) => (before?.blame[part] ?? 0) + (after?.blame[part] ?? 0) >= MIN_MS,
    ).map((part) => ({
      words: `of all, ${partWords(part)}`,
      before: cell(before, ({ blame }) => blame[part]),
      after: cell(after, ({ blame }) => blame[part]),
    }));
    return [...phases, ...parts];
  });

  constructor() {
    keepDrawn(
      () => this.canvas().nativeElement,
      () => this.pair(),
      (palette) => this.#draw(palette),
    );
  }

  #draw(palette: Palette): void {
    const { context, width } = prepareCanvas(this.canvas().nativeElement);
    const { before, after } = this.pair();
    const budgetMs = (before ?? after)?.budgetMs ?? 0;
    const mostMs = Math.max(before?.feltMs ?? 0, after?.feltMs ?? 0, budgetMs * 1.1, 1);
    const scale = new TimeScale(0, mostMs, LEFT, width - RIGHT);
    const budgetX = scale.x(budgetMs);
    context.fillStyle = palette.stingSoft;
    context.fillRect(budgetX, 0, scale.right - budgetX, AXIS_Y);
    this.#side(context, palette, scale, before, 'before');
    this.#side(context, palette, scale, after, 'after');
    context.strokeStyle = palette.sting;
    context.lineWidth = 1.5;
    context.setLineDash([4, 3]);
    line(context, budgetX, 0, budgetX, AXIS_Y);
    context.setLineDash([]);
    context.font = TEXT_FONT;
    context.fillStyle = palette.sting;
    const words = `budget ${Math.round(budgetMs)} ms`;
    const wide = context.measureText(words).width;
    context.fillText(words, budgetX + 6 + wide > width ? budgetX - 6 - wide : budgetX + 6, 12);
    this.#axis(context, palette, scale);
  }

  #side(
    context: CanvasRenderingContext2D,
    palette: Palette,
    scale: TimeScale,
    side: TypicalAnatomy | undefined,
    name: 'before' | 'after',
  ): void {
    const top = SIDE_TOP[name];
    context.font = BOLD_FONT;
    context.fillStyle = palette.ink;
    context.fillText(name, 0, top + 14);
    context.font = TEXT_FONT;
    if (side === undefined) {
      context.fillStyle = palette.soft;
      context.fillText('was not done', scale.left, top + 14);
      return;
    }
    const fills = lookFills(context, palette);
    for (const { name: phase, startMs, endMs, blame } of side.phases) {
      const [x, wide] = [scale.x(startMs), (endMs - startMs) * scale.pixelsPerMs];
      context.fillStyle = palette[PHASE_COLOURS[phase]];
      context.fillRect(x, top, Math.max(0.5, wide), PHASE_HEIGHT);
      if (wide > context.measureText(phase).width + MIN_WORDS) {
        context.fillStyle = phase === 'handling' ? palette.onHandling : palette.ink;
        context.fillText(phase, x + 6, top + 14);
      }
      let at = x;
      for (const part of BREAKDOWN_PARTS) {
        const share = blame[part] * scale.pixelsPerMs;
        if (part !== 'idleMs' && share > 0) {
          context.fillStyle = fills[itemStyleCode(STYLE_OF[part] ?? 'other')]!;
          context.fillRect(at, top + PHASE_HEIGHT + 2, Math.max(0.5, share), PARTS_HEIGHT);
        }
        at += share;
      }
    }
    context.fillStyle = palette.ink;
    context.font = FIGURE_FONT;
    context.fillText(durationText(side.feltMs), scale.x(side.feltMs) + 8, top + 30);
  }

  #axis(context: CanvasRenderingContext2D, palette: Palette, scale: TimeScale): void {
    context.strokeStyle = palette.line;
    context.lineWidth = 1;
    line(context, scale.left, AXIS_Y, scale.right, AXIS_Y);
    context.font = FIGURE_FONT;
    context.fillStyle = palette.soft;
    for (const ms of axisTicks(scale, 80)) {
      const x = scale.x(ms);
      line(context, x, AXIS_Y, x, AXIS_Y + 4);
      if (x + AXIS_WORDS < scale.right + 10) context.fillText(numberText(ms), x - 3, AXIS_Y + 17);
    }
    context.fillText('ms', scale.right + 10, AXIS_Y + 17);
  }
}

function line(context: CanvasRenderingContext2D, x: number, y: number, toX: number, toY: number): void {
  context.beginPath();
  context.moveTo(x, y);
  context.lineTo(toX, toY);
  context.stroke();
}
