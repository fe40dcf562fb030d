import { DestroyRef, afterNextRender, effect, inject } from '@angular/core';
import { PALETTE, type Palette } from './palette';

/** Sizes a canvas for its box and the screen's resolution, and gives its context in CSS pixels, cleared. */
export function prepareCanvas(canvas: HTMLCanvasElement): {
  context: CanvasRenderingContext2D;
  width: number;
  height: number;
} {
  const { clientWidth: width, clientHeight: height } = canvas;
  const scale = devicePixelRatio;
  const [pixelWidth, pixelHeight] = [Math.round(width * scale), Math.round(height * scale)];
  if (canvas.width !== pixelWidth || canvas.height !== pixelHeight) {
    canvas.width = pixelWidth;
    canvas.height = pixelHeight;
  }
  const context = canvas.getContext('2d')!;
  context.setTransform(scale, 0, 0, scale, 0, 0);
  context.clearRect(0, 0, width, height);
  return { context, width, height };
}

/** Calls back whenever the element's size changes, and once at the beginning. Ends with the signal. */
export function onResize(
  element: Element,
  callback: () => void,
  until: { onDestroy(end: () => void): unknown },
): void {
  const observer = new ResizeObserver(callback);
  observer.observe(element);
  until.onDestroy(() => observer.disconnect());
}

/** Calls back for each turn of the wheel over a canvas; the callback may keep the page from scrolling. To be called where `inject` may be. */
export function onWheel(canvas: () => HTMLCanvasElement, callback: (event: WheelEvent) => void): void {
  afterNextRender(() => canvas().addEventListener('wheel', callback, { passive: false }));
}

/** Size of a canvas. CSS pixels. */
export interface CanvasSize {
  readonly width: number;
  readonly height: number;
}

/**
 * Keeps a canvas drawn, at most once a frame: when its size changes, when the fonts have come, and
 * when the theme or a signal changes. To be called where `inject` may be.
 * @param follows reads the signals that the drawing depends on
 */
export function keepDrawn(
  canvas: () => HTMLCanvasElement,
  follows: () => void,
  draw: (palette: Palette) => void,
  onSize: (size: CanvasSize) => void = () => undefined,
): void {
  const destroyed = inject(DestroyRef);
  const palette = inject(PALETTE);
  let frame = 0;
  const drawSoon = () => {
    if (destroyed.destroyed) return;
    cancelAnimationFrame(frame);
    frame = requestAnimationFrame(() => draw(palette()));
  };
  afterNextRender(() => {
    const element = canvas();
    const tell = () => {
      onSize({ width: element.clientWidth, height: element.clientHeight });
      drawSoon();
    };
    onResize(element, tell, destroyed);
    void document.fonts.ready.then(drawSoon);
  });
  effect(() => {
    follows();
    palette();
    drawSoon();
  });
  destroyed.onDestroy(() => cancelAnimationFrame(frame));
}
