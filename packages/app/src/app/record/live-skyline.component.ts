import { percentText } from '@nettle-patch/core';
import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { onResize, prepareCanvas } from '../shared/canvas';
import { readPalette } from '../shared/palette';

const STEPS = 160;

/** How busy the main thread was, a quarter of a second a column, the newest at the right. */
@Component({
  selector: 'np-live-skyline',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #canvas role="img" [attr.aria-label]="label()"></canvas>`,
  styles: `
    canvas {
      display: block;
      width: 100%;
      height: 110px;
      border-bottom: 1px solid var(--soft);
    }
  `,
})
export class LiveSkylineComponent {
  readonly shares = input.required<readonly number[]>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly label = computed(
    () => `Main thread busy ${percentText(this.shares().at(-1) ?? 0)} at the latest`,
  );

  constructor() {
    const destroyed = inject(DestroyRef);
    effect(() => this.#draw(this.shares()));
    afterNextRender(() => onResize(this.canvas().nativeElement, () => this.#draw(this.shares()), destroyed));
  }

  #draw(shares: readonly number[]): void {
    const { context, width, height } = prepareCanvas(this.canvas().nativeElement);
    const palette = readPalette();
    const step = width / STEPS;
    const first = STEPS - shares.length;
    shares.forEach((share, index) => {
      context.fillStyle = share > 0.9 ? palette.sting : palette.handling;
      const tall = Math.max(share > 0 ? 1 : 0, share * (height - 4));
      context.fillRect((first + index) * step, height - tall, Math.max(1, step - 1), tall);
    });
  }
}
